<script setup lang="ts">
import { type Criterion, type MethodSheet, skillsOf } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { skillWords, VERDICT_WORDS } from '@clear-mark/words';
import { computed, nextTick, ref, watch } from 'vue';
import StripDrawing from '../../shared/StripDrawing.vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { usePreferences } from '../../shell/preferences.ts';
import CriterionRow from './CriterionRow.vue';
import LossField from './LossField.vue';
import ReadingsGrid from './ReadingsGrid.vue';
import type { GridCriterion } from './readings-grid.model.ts';
import { itemsByStep } from './sheet.model.ts';
import StepHead from './StepHead.vue';
import { TRIED_REFERENCE_DBM, useTriedSheet } from './use-tried-sheet.ts';

/** The sheet of a method as it is scored by, to be tried: nothing of it is kept. */
const props = defineProps<{
  sheet: MethodSheet;
  /** The criterion that is being worked on: brought into view and marked. */
  at: string | null;
}>();
const emit = defineEmits<{ choose: [criterionId: string] }>();
const preferences = usePreferences();
const tried = useTriedSheet(computed(() => props.sheet));
const byStep = computed(() => itemsByStep(tried.criteria.value));
const place = { attemptId: '', classId: '', trainee: '' };
const root = ref<HTMLElement | null>(null);
const skills = computed(() =>
  skillsOf(tried.outcome.value.skills).flatMap((skill) => {
    const group = tried.outcome.value.skills[skill];
    return group ? [{ skill, verdict: group.verdict }] : [];
  }),
);
const labelOf = (id: string): string =>
  tried.criteria.value.find((c) => c.criterion.id === id)?.criterion.label ?? '';
const isGrid = (c: Criterion): c is GridCriterion =>
  c.kind === 'readings' || (c.kind === 'loss' && c.fibers !== undefined);
function referenceFor(criterion: Criterion, nm: number): ClassReference | null {
  const method = criterion.kind === 'loss' ? criterion.link.referenceMethod : null;
  return tried.references.value.find((r) => r.wavelengthNm === nm && r.method === method) ?? null;
}
const hasLoss = computed(() => tried.references.value.length > 0);
watch(
  () => props.at,
  async (id) => {
    await nextTick();
    const row = root.value?.querySelector(`[data-criterion="${id?.split('/').pop()}"]`);
    // Only within its own column: on a narrow screen the page would run away from what is written.
    const column = root.value?.parentElement;
    if (
      column &&
      column.scrollHeight > column.clientHeight &&
      getComputedStyle(column).overflowY === 'auto'
    ) {
      row?.scrollIntoView({ block: 'nearest' });
    }
  },
  { immediate: true },
);
</script>

<template>
  <section ref="root" class="try" aria-label="The sheet, to be tried">
    <div class="result">
      <VerdictRing :verdict="tried.outcome.value.verdict" :share="tried.outcome.value.share" :size="34" />
      <div class="words">
        <b data-test="tried-verdict">{{ VERDICT_WORDS[tried.outcome.value.verdict] }}</b>
        <span class="soft small">
          {{ tried.outcome.value.points.earned }} of {{ tried.outcome.value.points.possible }} points
          <template v-for="s in skills" :key="s.skill">
            · {{ skillWords(s.skill) }}: {{ VERDICT_WORDS[s.verdict].toLowerCase() }}</template
          >
        </span>
      </div>
      <el-button size="large" :disabled="tried.entries.value.length === 0" @click="tried.clear()">
        Clear the try
      </el-button>
    </div>
    <p v-if="hasLoss" class="soft small note">
      Losses are tried against a made-up reference of {{ TRIED_REFERENCE_DBM }} dBm.
    </p>
    <StripDrawing
      v-if="sheet.strip"
      class="strip"
      :strip="sheet.strip"
      :place="null"
      :unit="preferences.lengthUnit"
    />
    <section v-for="(step, i) in sheet.steps" :key="step.id" :aria-labelledby="`step-${step.id}`">
      <StepHead
        :step="step"
        :number="i + 1"
        :outcome="tried.outcome.value.steps[i]!"
        :current="false"
        :folded="false"
      />
      <CriterionRow
        v-for="item in byStep.get(step.id)"
        :key="`${item.criterion.id} ${item.criterion.kind}`"
        :item="item"
        :outcome="tried.outcomes.value.get(item.criterion.id)!"
        :entry="tried.entryOf(item.criterion.id)"
        :about="
          item.criterion.kind === 'call' && item.criterion.of
            ? (tried.outcomes.value.get(item.criterion.of) ?? null)
            : null
        "
        :current="item.criterion.id === at"
        :locked="false"
        :length-unit="preferences.lengthUnit"
        :place="place"
        :offset-ms="0"
        :choice="null"
        :name-of="() => ''"
        :label-of="labelOf"
        @select="emit('choose', item.criterion.id)"
        @value="(value) => tried.enter(item.criterion.id, '', value)"
      >
        <LossField
          v-if="item.criterion.kind === 'loss' && !isGrid(item.criterion)"
          :criterion="item.criterion"
          :outcome="tried.outcomes.value.get(item.criterion.id)!"
          :entry-by-id="tried.entryById"
          :references="tried.references.value"
          :reference-for="(nm) => referenceFor(item.criterion, nm)"
          :locked="false"
          attempt-id=""
          :instrument-id="null"
          :conditioned="null"
          :trainee-reading="() => null"
          @value="(part, value) => tried.enter(item.criterion.id, part, value)"
        />
        <ReadingsGrid
          v-else-if="isGrid(item.criterion)"
          :criterion="item.criterion"
          :outcome="tried.outcomes.value.get(item.criterion.id)!"
          :entry-by-id="tried.entryById"
          :reference-for="(nm) => referenceFor(item.criterion, nm)"
          :locked="false"
          attempt-id=""
          :instrument-id="null"
          @values="(values) => values.forEach((v) => tried.enter(item.criterion.id, v.part, v.value))"
        />
      </CriterionRow>
    </section>
  </section>
</template>

<style scoped>
.try {
  container: sheet / inline-size;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: var(--round);
}
.result {
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 12px;
  background: var(--sheet);
  border-bottom: 1px solid var(--hair-strong);
  border-radius: var(--round) var(--round) 0 0;
}
.words {
  display: grid;
  flex: 1;
  min-width: 0;
}
.note {
  padding: 6px 12px 0;
}
.strip {
  margin: 8px 12px 0;
}
</style>
