<script setup lang="ts">
import {
  FIBER_CLASSES,
  fiberListText,
  isSingleMode,
  LINK_ENDS,
  linkFindings,
  type LinkPlan,
  type LinkSegment,
  type LossSettings,
  readFiberList,
  REFERENCE_SET_UPS,
} from '@clear-mark/core';
import { EXAMPLE_LINKS, lossRulesFor } from '@clear-mark/methods/loss';
import { linkFindingWords, REFERENCE_STEPS, REFERENCE_WORDS } from '@clear-mark/words';
import type { ClassLink } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { usePreferences } from '../../../shell/preferences.ts';
import CommitField from '../../../shared/CommitField.vue';
import BudgetTable from './BudgetTable.vue';
import ChainDrawing from '../polarity/ChainDrawing.vue';
import JudgePanel from './JudgePanel.vue';
import { changedSegment, newLink, termsOfLink, withoutSegment, withSegment } from './link.model.ts';
import LaunchSection from './LaunchSection.vue';
import LimitSection from './LimitSection.vue';
import LinkDrawing from './LinkDrawing.vue';
import LinkTestsSection from './LinkTestsSection.vue';
import SegmentEdit from './SegmentEdit.vue';
import { useLinks } from './use-links.ts';
import ActMenu from '../../../shared/ActMenu.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';

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
function add(kind: LinkSegment['kind']): void {
  setPlan(withSegment(plan.value!, kind));
  selected.value = plan.value!.segments.length - 1;
}
function remove(): void {
  setPlan(withoutSegment(plan.value!, selected.value!));
  selected.value = plan.value!.segments.length > 0 ? Math.max(0, selected.value! - 1) : null;
}
const darkProblem = ref<string | null>(null);
function setDark(text: string): void {
  const list = readFiberList(text, plan.value!.fibers);
  darkProblem.value =
    list.kind === 'fibers'
      ? null
      : `“${list.text}” is no fiber from 1 to ${list.most}. Write them like 3, 7-8.`;
  if (list.kind === 'fibers') setPlan({ ...plan.value!, darkFibers: list.fibers });
}
const next = <T,>(list: readonly T[], now: T): T => list[(list.indexOf(now) + 1) % list.length]!;
function turnEnd(end: 0 | 1): void {
  const ends = [...plan.value!.ends] as [LinkPlan['ends'][0], LinkPlan['ends'][1]];
  ends[end] = next(LINK_ENDS, ends[end]);
  setPlan({ ...plan.value!, ends });
}
const turnJoint = (at: number): void =>
  setPlan({
    ...plan.value!,
    joints: plan.value!.joints.map((j, i) => (i === at ? (j === 'splice' ? 'connection' : 'splice') : j)),
  });
/** A copy of a shipped example, under a name of its own. */
function beginFrom(called: string): void {
  const example = EXAMPLE_LINKS.find((l) => l.label === called);
  if (!example) return;
  const known = new Set(links.value.map((l) => l.label));
  let label = example.label;
  for (let n = 2; known.has(label); n++) label = `${example.label} ${n}`;
  start({ ...newLink(v7(), label), ...(structuredClone(example) as object), label } as ClassLink);
  selected.value = 0;
}
function begin(): void {
  const known = new Set(links.value.map((l) => l.label));
  let n = links.value.length + 1;
  while (known.has(`Link ${n}`)) n += 1;
  start(newLink(v7(), `Link ${n}`));
  selected.value = 0;
}
</script>

<template>
  <div class="two">
    <nav aria-label="Links of the class">
      <el-button
        v-for="l in links.filter((x) => !x.retired || x.id === chosenId)"
        :key="l.id"
        size="large"
        class="pick"
        :aria-pressed="l.id === chosenId"
        @click="(choose(l.id), (selected = 0))"
      >
        {{ l.id === chosenId && draft ? draft.label : l.label }}
      </el-button>
      <p v-if="links.length === 0" class="soft">No link described yet.</p>
      <el-button size="large" :type="links.length === 0 ? 'primary' : 'default'" @click="begin"
        >New link</el-button
      >
      <ActMenu
        label="From an example"
        name="New link from an example"
        :acts="EXAMPLE_LINKS.map((e) => ({ value: e.label, label: e.label }))"
        @choose="beginFrom"
      />
    </nav>
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
      <LinkDrawing
        :plan="plan"
        :unit="preferences.distanceUnit"
        :selected="selected"
        @select="(i) => (selected = i)"
        @joint="turnJoint"
        @end="turnEnd"
      />
      <p class="small soft">Tap an end or a joint to change it, a part to edit it.</p>
      <div class="row">
        <el-button size="large" @click="add('cable')">Add cable</el-button>
        <el-button size="large" @click="add('cassette')">Add cassette</el-button>
        <el-button size="large" @click="add('trunk')">Add trunk</el-button>
        <ChoiceField
          inline
          label="Fiber"
          :model-value="plan.fiberClass"
          :options="FIBER_CLASSES.map((c) => ({ value: c, label: c }))"
          @change="(fiberClass) => setPlan({ ...plan!, fiberClass })"
        />
        <ChoiceField
          v-if="plan.segments.some((s) => s.kind !== 'cable')"
          inline
          label="Fibers"
          :model-value="plan.fibers"
          :options="[8, 12, 24].map((n) => ({ value: n, label: String(n) }))"
          @change="(fibers) => setPlan({ ...plan!, fibers })"
        />
        <label v-if="plan.fibers > 2" class="row inline">
          <span class="soft">Dark by design</span>
          <CommitField
            class="dark-list"
            label="Fibers that are dark by design, such as 5-8"
            placeholder="none"
            :value="fiberListText(plan.darkFibers ?? [])"
            @commit="setDark"
          />
        </label>
      </div>
      <p v-if="darkProblem" class="notice bad" role="alert">{{ darkProblem }}</p>
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
.dark-list {
  width: 9em;
}
.two {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 24px;
}
nav {
  display: grid;
  gap: 8px;
  align-content: start;
}
.pick {
  justify-content: flex-start;
  text-align: left;
  padding: 6px 12px;
}
.work {
  display: grid;
  gap: 12px;
}
.name {
  font-size: 1.5rem;
  font-weight: 700;
  width: min(420px, 60vw);
}
.inline {
  gap: 6px;
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
  nav {
    display: flex;
    flex-wrap: wrap;
  }
}
</style>
