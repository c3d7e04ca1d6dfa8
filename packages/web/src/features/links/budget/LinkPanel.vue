<script setup lang="ts">
import {
  isSingleMode,
  linkFindings,
  type LinkPlan,
  type LossSettings,
  REFERENCE_SET_UPS,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { linkFindingWords, REFERENCE_STEPS, REFERENCE_WORDS } from '@clear-mark/words';
import type { ClassLink } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { usePreferences } from '../../../shell/preferences.ts';
import CommitField from '../../../shared/CommitField.vue';
import BudgetTable from './BudgetTable.vue';
import ChainDrawing from '../polarity/ChainDrawing.vue';
import JudgePanel from './JudgePanel.vue';
import { changedSegment, termsOfLink, withoutSegment } from './link.model.ts';
import LaunchSection from './LaunchSection.vue';
import LimitSection from './LimitSection.vue';
import LinkList from './LinkList.vue';
import LinkParts from './LinkParts.vue';
import LinkTestsSection from './LinkTestsSection.vue';
import SegmentEdit from './SegmentEdit.vue';
import { useLinks } from './use-links.ts';

const props = defineProps<{ classId: string }>();
const preferences = usePreferences();
const { links, draft, chosenId, failure, state, choose, start, change } = useLinks(props.classId);
const selected = ref<number | null>(0);

const plan = computed<LinkPlan | null>(() => draft.value?.plan ?? null);
const setPlan = (next: LinkPlan): void => change({ plan: structuredClone(next) as never });
const setSettings = (what: Partial<LossSettings>): void =>
  change({ settings: { ...draft.value!.settings, ...structuredClone(what) } as never });
const segment = computed(() =>
  selected.value === null ? null : (plan.value?.segments[selected.value] ?? null),
);
const findings = computed(() => (plan.value ? linkFindings(plan.value) : []));
const rules = computed(() =>
  draft.value
    ? lossRulesFor(draft.value.plan.fiberClass, draft.value.referenceMethod, draft.value.settings)
    : null,
);
const terms = computed(() =>
  draft.value && rules.value ? termsOfLink(draft.value.plan, draft.value.referenceMethod, rules.value) : null,
);
const setUp = computed(() => (draft.value ? REFERENCE_SET_UPS[draft.value.referenceMethod] : null));
function remove(): void {
  setPlan(withoutSegment(plan.value!, selected.value!));
  selected.value = plan.value!.segments.length > 0 ? Math.max(0, selected.value! - 1) : null;
}
function begin(link: ClassLink): void {
  start(link);
  selected.value = 0;
}
</script>

<template>
  <div class="two">
    <LinkList
      :links="links"
      :chosen-id="chosenId"
      :chosen-label="draft?.label ?? null"
      @choose="(id) => (choose(id), (selected = 0))"
      @start="begin"
    />
    <div v-if="draft && plan && rules && setUp" class="work">
      <div class="row spread">
        <CommitField
          class="lined name"
          label="Name of the link"
          :value="draft.label"
          :maxlength="60"
          @commit="(text) => text.trim() !== '' && change({ label: text.trim() })"
        />
        <span class="small soft" role="status">{{
          state === 'saved' ? 'Saved' : state === 'saving' ? 'Saving' : 'Not saved yet'
        }}</span>
      </div>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
      <LinkParts
        :plan="plan"
        :unit="preferences.distanceUnit"
        :selected="selected"
        @select="selected = $event"
        @change="setPlan"
      />
      <SegmentEdit
        v-if="segment"
        :key="`${draft.id} ${selected}`"
        :segment="segment"
        :number="selected! + 1"
        :fiber-class="plan.fiberClass"
        :unit="preferences.distanceUnit"
        @change="(what) => setPlan(changedSegment(plan!, selected!, what))"
        @remove="remove"
      />
      <p v-for="(f, i) in findings" :key="i" class="notice" :class="{ bad: f.stops }">
        {{ linkFindingWords(f) }}
      </p>

      <LimitSection
        :link="draft"
        :rules="rules"
        :terms="terms"
        @method="(method) => change({ referenceMethod: method })"
        @settings="setSettings"
      />

      <LaunchSection
        v-if="!isSingleMode(plan.fiberClass)"
        :plan="plan"
        :settings="draft.settings"
        @settings="setSettings"
      />

      <section class="section chains">
        <ChainDrawing
          :chain="setUp.reference"
          :label="`Reference: ${REFERENCE_WORDS[draft.referenceMethod]}`"
        />
        <ol>
          <li v-for="words in REFERENCE_STEPS[draft.referenceMethod].reference" :key="words">{{ words }}</li>
        </ol>
        <ChainDrawing :chain="setUp.test" label="Test" />
        <ol>
          <li v-for="words in REFERENCE_STEPS[draft.referenceMethod].test" :key="words">{{ words }}</li>
        </ol>
      </section>

      <BudgetTable
        :rules="rules"
        :own="draft.settings.budget !== null"
        @change="(budget) => setSettings({ budget })"
      />
      <JudgePanel
        v-if="terms"
        :plan="plan"
        :method="draft.referenceMethod"
        :rules="rules"
        :conditioned="isSingleMode(plan.fiberClass) ? null : draft.settings.conditioned"
      />
      <LinkTestsSection :class-id="classId" :link-id="draft.id" />
      <section class="section">
        <el-button size="large" @click="change({ retired: !draft.retired })">
          {{ draft.retired ? 'Put this link back into use' : 'Take this link out of use' }}
        </el-button>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 24px;
}
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 12px;
}
.name {
  font-size: 1.5rem;
  font-weight: 700;
  width: min(420px, 60vw);
}
.chains {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(220px, 1fr);
  gap: 18px 24px;
  align-items: center;
}
@media (max-width: 900px) {
  .chains {
    grid-template-columns: minmax(0, 1fr);
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
