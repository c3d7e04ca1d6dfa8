<script setup lang="ts">
import { cardOfMethod, type Criterion, type Entry, TIMER_PART } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useSession } from '../../session/session.ts';
import { usePreferences } from '../../shell/preferences.ts';
import CriterionRow from './CriterionRow.vue';
import LimitDetails from './LimitDetails.vue';
import LossField from './LossField.vue';
import { originOf } from './origins.model.ts';
import ReadingsGrid from './ReadingsGrid.vue';
import { faceBeside, layerOf, lossBeside, pictureOf } from './pictures.model.ts';
import type { GridCriterion } from './readings-grid.model.ts';
import { isEndFace, ownReading, proposalsOf, type SheetCriterion, type SheetPlace } from './sheet.model.ts';
import type { SheetState } from './use-sheet.ts';
import type { DialogName } from './cursor.model.ts';
import type { SheetCursor } from './use-sheet-cursor.ts';
import type { SheetInstruments } from './use-sheet-instruments.ts';

/**
 * A criterion of the sheet with all that it asks of the sheet: its result, what is chosen or witnessed, its readings.
 * It is drawn again only when something of its own changes.
 */
const props = defineProps<{
  sheet: SheetState;
  cursor: SheetCursor;
  bench: SheetInstruments;
  item: SheetCriterion;
  locked: boolean;
  place: SheetPlace;
  instrumentId: string | null;
  nameOf: (personId: string) => string;
  /** The level that the picture of this piece's end face was graded at. */
  graded: string | null;
  referenceFor: (nm: number, fiber?: number | null) => ClassReference | null;
}>();
const emit = defineEmits<{ dialog: [name: DialogName] }>();
/** Fetched with its worker when somebody measures. */
const MeasureDialog = defineAsyncComponent(async () => (await import('../measured/index.ts')).MeasureDialog);
const EndDialog = defineAsyncComponent(async () => (await import('../measured/index.ts')).EndDialog);
const SpliceDialog = defineAsyncComponent(async () => (await import('../measured/index.ts')).SpliceDialog);
const isMeasuring = ref(false);
const layer = computed(() => layerOf(props.item));
const joint = computed(() =>
  pictureOf(props.item) === 'splice' && props.item.criterion.kind === 'grade' ? props.item.criterion : null,
);
const cleavedFace = computed(() => faceBeside(props.item, props.sheet.outcomes.value, props.sheet.entryById));
const beside = computed(() => {
  const loss = lossBeside(props.item, props.sheet.outcomes.value, props.sheet.entryById);
  return loss && `By the picture of the joint ${loss.lossDb} ± ${loss.expanded} dB at 1310 nm`;
});
const card = computed(() => cardOfMethod(props.sheet.document.value!.sheet));
const preferences = usePreferences();
const session = useSession();
const id = computed(() => props.item.criterion.id);
const outcome = computed(() => props.sheet.outcomes.value.get(id.value)!);
const isCurrent = computed(() => props.cursor.current.value === props.item);
const labelOf = (criterionId: string): string =>
  props.sheet.criteria.value.find((c) => c.criterion.id === criterionId)?.criterion.label ?? criterionId;

/** Checks show their outcome; readings in parts ask for their entries themselves. */
const entry = computed(() =>
  ['check', 'loss', 'readings'].includes(props.item.criterion.kind) ? null : props.cursor.entryOf(props.item),
);
const about = computed(() => {
  const { criterion } = props.item;
  return criterion.kind === 'call' && criterion.of !== undefined
    ? (props.sheet.outcomes.value.get(criterion.of) ?? null)
    : null;
});
const entriesOf = (ids: readonly string[]): Entry[] =>
  ids.flatMap((entryId) => props.sheet.entryById(entryId) ?? []);
const origin = computed(() => originOf(entriesOf(outcome.value.entryIds), props.nameOf));
/** Two results that do not know of each other, or a trainee's own that an instructor has to have seen. */
const choice = computed(() => {
  const { state, entryIds, reasons } = outcome.value;
  if (state === 'conflict') return { act: 'keep' as const, entries: entriesOf(entryIds) };
  if (reasons[0]?.code !== 'open.proposed' || !session.teaches) return null;
  return { act: 'seen' as const, entries: proposalsOf(props.sheet.entries.value, id.value) };
});
const isGrid = (c: Criterion): c is GridCriterion =>
  c.kind === 'readings' || (c.kind === 'loss' && c.fibers !== undefined);

/** The chosen result, or the witnessed one, entered by the one who chose or saw. */
function keep({ kind, criterionId, part, value, voidReason, source }: Entry): void {
  props.sheet.add({ kind, criterionId, part, value, voidReason, source });
}
function timer(act: 'start' | 'drop'): void {
  if (act === 'start') {
    const value = { kind: 'timer', startedAt: new Date().toISOString() } as const;
    props.sheet.add({ kind: 'timer', criterionId: id.value, part: TIMER_PART, value });
    return;
  }
  const running = props.sheet.bench.value.timers.find((e) => e.criterionId === id.value);
  if (running) props.sheet.takeBack(running);
}
</script>

<template>
  <CriterionRow
    :ref="(el) => cursor.register(id, el)"
    :item="item"
    :outcome="outcome"
    :entry="entry"
    :about="about"
    :current="isCurrent"
    :locked="locked"
    :length-unit="preferences.lengthUnit"
    :place="place"
    :offset-ms="sheet.offsetMs.value"
    :choice="choice"
    :name-of="nameOf"
    :label-of="labelOf"
    :origin="origin"
    :port-light="item.criterion.kind === 'map' ? bench.portLight.value : null"
    :graded="isEndFace(item.criterion) ? graded : cleavedFace"
    :graded-by="cleavedFace ? 'By the picture of the cleave' : undefined"
    :beside="beside"
    @keep="keep"
    @picture="isMeasuring = true"
    @timer="timer"
    @select="cursor.select(item)"
    @value="(value, source, note) => cursor.enter(item, '', value, source, note)"
    @done="cursor.leave(item)"
  >
    <LossField
      v-if="item.criterion.kind === 'loss' && !isGrid(item.criterion)"
      :criterion="item.criterion"
      :outcome="outcome"
      :entry-by-id="sheet.entryById"
      :references="sheet.references.value"
      :reference-for="referenceFor"
      :locked="locked"
      :attempt-id="place.attemptId"
      :instrument-id="instrumentId"
      :conditioned="bench.conditionedOf(item.criterion)"
      :trainee-reading="(part) => ownReading(sheet.entries.value, id, part)"
      @focus="cursor.select(item)"
      @value="(part, value) => cursor.enter(item, part, bench.withCord(value), 'instrument')"
      @void="(part, reason) => sheet.add({ kind: 'void', criterionId: id, part, voidReason: reason })"
      @reference="emit('dialog', 'reference')"
      @reread="emit('dialog', 'reread')"
    />
    <template v-else-if="isGrid(item.criterion)">
      <ReadingsGrid
        :criterion="item.criterion"
        :outcome="outcome"
        :entry-by-id="sheet.entryById"
        :reference-for="referenceFor"
        :locked="locked"
        :attempt-id="place.attemptId"
        :instrument-id="instrumentId"
        @focus="cursor.select(item)"
        @values="
          (values) =>
            cursor.enterParts(
              item,
              values.map((v) => ({ ...v, value: bench.withCord(v.value) })),
            )
        "
        @void="(part, reason) => sheet.add({ kind: 'void', criterionId: id, part, voidReason: reason })"
        @reference="emit('dialog', 'reference')"
        @reread="emit('dialog', 'reread')"
        @done="cursor.leave(item)"
      />
      <LimitDetails v-if="item.criterion.kind === 'loss'" class="details" :criterion="item.criterion" />
    </template>
  </CriterionRow>
  <EndDialog
    v-if="isMeasuring && layer"
    :class-id="place.classId"
    :attempt-id="place.attemptId"
    :criterion-id="id"
    :label="item.criterion.label"
    :layer="layer"
    :card="card"
    @close="isMeasuring = false"
    @value="(value, source) => cursor.enter(item, '', value, source)"
  />
  <SpliceDialog
    v-else-if="isMeasuring && joint"
    :class-id="place.classId"
    :attempt-id="place.attemptId"
    :criterion-id="id"
    :label="joint.label"
    :levels="joint.levels"
    @close="isMeasuring = false"
    @value="(value, source) => cursor.enter(item, '', value, source)"
  />
  <MeasureDialog
    v-else-if="isMeasuring"
    :class-id="place.classId"
    :attempt-id="place.attemptId"
    :criterion-id="id"
    :label="item.criterion.label"
    @close="isMeasuring = false"
    @value="(value, source) => cursor.enter(item, '', value, source)"
  />
</template>

<style scoped>
.details {
  grid-column: 1 / -1;
  padding: 0 0 10px 42px;
}
</style>
