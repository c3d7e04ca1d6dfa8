<script setup lang="ts">
import type { Criterion, CriterionOutcome, Entry, EntryValue, MethodSheet, Outcome } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { computed } from 'vue';
import { usePreferences } from '../../shell/preferences.ts';
import CriterionRow from './CriterionRow.vue';
import LossField from './LossField.vue';
import ReadingsGrid from './ReadingsGrid.vue';
import type { GridCriterion } from './readings-grid.model.ts';
import { itemsByStep, listCriteria } from './sheet.model.ts';
import StepHead from './StepHead.vue';

/** The rows of a sheet whose entries are here alone: a try of a method, an amendment that is not signed yet. */
const props = defineProps<{
  sheet: MethodSheet;
  outcome: Outcome;
  outcomes: ReadonlyMap<string, CriterionOutcome>;
  references: readonly ClassReference[];
  entryOf: (criterionId: string) => Entry | null;
  entryById: (id: string) => Entry | null;
  /** The criterion that is being worked on. */
  at: string | null;
  nameOf?: (personId: string) => string;
}>();
const emit = defineEmits<{
  choose: [criterionId: string];
  value: [criterionId: string, part: string, value: EntryValue];
}>();
const preferences = usePreferences();
const criteria = computed(() => listCriteria(props.sheet));
const byStep = computed(() => itemsByStep(criteria.value));
const place = { attemptId: '', classId: '', trainee: '' };
const labelOf = (id: string): string =>
  criteria.value.find((c) => c.criterion.id === id)?.criterion.label ?? '';
const isGrid = (c: Criterion): c is GridCriterion =>
  c.kind === 'readings' || (c.kind === 'loss' && c.fibers !== undefined);
function referenceFor(criterion: Criterion, nm: number): ClassReference | null {
  const method = criterion.kind === 'loss' ? criterion.link.referenceMethod : null;
  return props.references.find((r) => r.wavelengthNm === nm && r.method === method) ?? null;
}
</script>

<template>
  <section v-for="(step, i) in sheet.steps" :key="step.id" :aria-labelledby="`step-${step.id}`">
    <StepHead :step="step" :number="i + 1" :outcome="outcome.steps[i]!" :current="false" :folded="false" />
    <CriterionRow
      v-for="item in byStep.get(step.id)"
      :key="`${item.criterion.id} ${item.criterion.kind}`"
      :item="item"
      :outcome="outcomes.get(item.criterion.id)!"
      :entry="entryOf(item.criterion.id)"
      :about="
        item.criterion.kind === 'call' && item.criterion.of ? (outcomes.get(item.criterion.of) ?? null) : null
      "
      :current="item.criterion.id === at"
      :locked="false"
      :length-unit="preferences.lengthUnit"
      :place="place"
      :offset-ms="0"
      :choice="null"
      :name-of="nameOf ?? (() => '')"
      :label-of="labelOf"
      @select="emit('choose', item.criterion.id)"
      @value="(value) => emit('value', item.criterion.id, '', value)"
    >
      <LossField
        v-if="item.criterion.kind === 'loss' && !isGrid(item.criterion)"
        :criterion="item.criterion"
        :outcome="outcomes.get(item.criterion.id)!"
        :entry-by-id="entryById"
        :references="references"
        :reference-for="(nm) => referenceFor(item.criterion, nm)"
        :locked="false"
        attempt-id=""
        :instrument-id="null"
        :conditioned="null"
        :trainee-reading="() => null"
        @value="(part, value) => emit('value', item.criterion.id, part, value)"
      />
      <ReadingsGrid
        v-else-if="isGrid(item.criterion)"
        :criterion="item.criterion"
        :outcome="outcomes.get(item.criterion.id)!"
        :entry-by-id="entryById"
        :reference-for="(nm) => referenceFor(item.criterion, nm)"
        :locked="false"
        attempt-id=""
        :instrument-id="null"
        @values="(values) => values.forEach((v) => emit('value', item.criterion.id, v.part, v.value))"
      />
    </CriterionRow>
  </section>
</template>
