<script setup lang="ts">
import {
  type Cause,
  CHARGE_PART,
  type Criterion,
  dismissPart,
  type Entry,
  HAND_PART,
  type Skill,
  TIMER_PART,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { computed, onMounted, onUnmounted, ref } from 'vue';
import StripDrawing from '../../shared/StripDrawing.vue';
import { usePreferences } from '../../shell/preferences.ts';
import { useSession } from '../../session/session.ts';
import BenchRail from './BenchRail.vue';
import CriterionRow from './CriterionRow.vue';
import HandCall from './HandCall.vue';
import LimitDetails from './LimitDetails.vue';
import LossField from './LossField.vue';
import OutcomePanel from './OutcomePanel.vue';
import ReadingsGrid from './ReadingsGrid.vue';
import type { GridCriterion } from './readings-grid.model.ts';
import SheetDialogs from './SheetDialogs.vue';
import SheetDock from './SheetDock.vue';
import SheetHead from './SheetHead.vue';
import SplicerLine from './SplicerLine.vue';
import StepHead from './StepHead.vue';
import StopNotice from './StopNotice.vue';
import {
  openChecks,
  openSampled,
  ownReading,
  proposalsOf,
  type SheetCriterion,
  standingDismissals,
} from './sheet.model.ts';
import { originOf } from './origins.model.ts';
import RecordNotices from './RecordNotices.vue';
import { useGradedFace } from './use-graded-face.ts';
import { useSheet } from './use-sheet.ts';
import { type DialogName, useSheetCursor } from './use-sheet-cursor.ts';
import { useSheetInstruments } from './use-sheet-instruments.ts';
import { useNames } from './use-names.ts';
import { useStepText } from './use-step-text.ts';

const props = defineProps<{ classId: string; attemptId: string }>();
const preferences = usePreferences();
const session = useSession();
const sheet = useSheet(props.attemptId, props.classId);
const dialog = ref<DialogName | null>(null);
const railRef = ref<InstanceType<typeof BenchRail> | null>(null);
const cursor = useSheetCursor(sheet, {
  open: (name) => (dialog.value = name),
  isOpen: () => dialog.value !== null,
  step: (by) => railRef.value?.step(by),
});
const { current, byCriterion, entryOf } = cursor;

const { folded } = useStepText(() => sheet.document.value?.attempt.traineeId);
const locked = computed(() => sheet.signed.value || !sheet.mine.value);
const steps = computed(() => sheet.sheet.value?.steps ?? []);
const place = computed(() => ({
  attemptId: props.attemptId,
  classId: props.classId,
  trainee: sheet.document.value?.attempt.traineeName ?? '',
}));
const instrumentId = computed(
  () => sheet.document.value?.attempt.things.find((t) => t.kind === 'instrument')?.id ?? null,
);
/** Two results that do not know of each other, or a trainee's own that an instructor has to have seen. */
function choiceOf({ criterion }: SheetCriterion) {
  const outcome = sheet.outcomes.value.get(criterion.id);
  if (outcome?.state === 'conflict') {
    const entries = outcome.entryIds.flatMap((id) => sheet.entryById(id) ?? []);
    return { act: 'keep' as const, entries };
  }
  if (outcome?.reasons[0]?.code !== 'open.proposed' || !session.teaches) return null;
  return { act: 'seen' as const, entries: proposalsOf(sheet.entries.value, criterion.id) };
}
/** The chosen result, or the witnessed one, entered by the one who chose or saw. */
function keep(entry: Entry): void {
  const { kind, criterionId, part, value, voidReason, source } = entry;
  sheet.add({ kind, criterionId, part, value, voidReason, source });
}
const nameOf = useNames();
const labelOf = (id: string): string =>
  sheet.criteria.value.find((c) => c.criterion.id === id)?.criterion.label ?? id;

function originFor({ criterion }: SheetCriterion) {
  const ids = sheet.outcomes.value.get(criterion.id)?.entryIds ?? [];
  return originOf(
    ids.flatMap((id) => sheet.entryById(id) ?? []),
    nameOf,
  );
}

function startTimer({ criterion }: SheetCriterion): void {
  const value = { kind: 'timer', startedAt: new Date().toISOString() } as const;
  sheet.add({ kind: 'timer', criterionId: criterion.id, part: TIMER_PART, value });
}
function dropTimer({ criterion }: SheetCriterion): void {
  const running = sheet.bench.value.timers.find((e) => e.criterionId === criterion.id);
  if (running) sheet.takeBack(running);
}
const atHand = computed(() => current.value ?? sheet.criteria.value[0] ?? null);
const openOfStep = computed(
  () => openChecks(byCriterion.value.get(atHand.value?.step.id ?? '') ?? [], sheet.outcomes.value).length,
);
const sampledLeft = computed(() => openSampled(sheet.criteria.value, sheet.outcomes.value).length);
function raiseHand(): void {
  const criterionId = atHand.value!.criterion.id;
  sheet.add({ kind: 'hand', criterionId, part: HAND_PART, value: { kind: 'hand' } });
}
const isEndFace = (c: Criterion): boolean => c.id.endsWith('/end-face');
const gradedFace = useGradedFace(props.classId, props.attemptId);
const bench = useSheetInstruments(sheet);
const isGrid = (c: Criterion): c is GridCriterion =>
  c.kind === 'readings' || (c.kind === 'loss' && c.fibers !== undefined);
/** Checks show their outcome; readings in parts ask for their entries themselves. */
const needsEntry = (item: SheetCriterion): boolean =>
  item.criterion.kind !== 'check' && item.criterion.kind !== 'loss' && item.criterion.kind !== 'readings';
const aboutOf = ({ criterion }: SheetCriterion) =>
  criterion.kind === 'call' && criterion.of !== undefined
    ? (sheet.outcomes.value.get(criterion.of) ?? null)
    : null;

/** The newest reference for a wavelength and leg by the sheet's method, of the instrument in use when it has one. */
function referenceFor(nm: number, fiber: number | null = null): ClassReference | null {
  const method = cursor.lossItem.value?.link.referenceMethod;
  const fits = sheet.references.value.filter(
    (r) =>
      r.wavelengthNm === nm &&
      r.method === method &&
      r.voidReason === null &&
      (!r.leg || fiber === null || r.leg === fiber),
  );
  const instrument = instrumentId.value;
  return fits.find((r) => r.instrumentId === instrument) ?? (instrument ? null : (fits[0] ?? null));
}
const undoLabel = computed(() => cursor.undoLabel.value);
const dismissed = computed(() => standingDismissals(sheet.entries.value));
/** The instructor's recorded choice; undo takes it back like any other entry. */
function charge(criterionId: string, skill: Skill, cause: Cause): void {
  sheet.add({ kind: 'charge', criterionId, part: CHARGE_PART, value: { kind: 'charge', skill, cause } });
}

/** A wrong suggestion is put away, and counted for the lead. */
function dismiss(criterionId: string, symptom: string, cause: Cause): void {
  const part = dismissPart(symptom, cause);
  sheet.add({ kind: 'dismiss', criterionId, part, value: { kind: 'dismiss', symptom, cause } });
}

onMounted(async () => {
  await sheet.load();
  cursor.toFirstOpen();
  if (sheet.criteria.value.some((c) => isEndFace(c.criterion))) void gradedFace.load();
  window.addEventListener('keydown', cursor.onKey);
});
onUnmounted(() => window.removeEventListener('keydown', cursor.onKey));
</script>

<template>
  <div v-if="sheet.failure.value && !sheet.document.value" class="page">
    <p class="notice bad" role="alert">{{ sheet.failure.value }}</p>
    <button class="act next" type="button" @click="sheet.load()">Try again</button>
  </div>
  <div v-else-if="sheet.document.value && sheet.outcome.value" class="sheet-grid">
    <BenchRail v-if="classId" ref="railRef" class="rail" :class-id="classId" :attempt-id="attemptId" />
    <section class="work" aria-label="Method sheet">
      <SheetHead :document="sheet.document.value" :class-id="classId">
        <HandCall
          v-if="!sheet.signed.value && sheet.mine.value"
          :hand="sheet.bench.value.hand"
          :teaches="session.teaches"
          @raise="raiseHand"
          @lower="sheet.takeBack(sheet.bench.value.hand!)"
        />
        <StopNotice
          :stops="sheet.outcome.value.stops ?? []"
          :can-take-back="session.teaches && !locked"
          @take-back="(id) => sheet.takeBack(sheet.entryById(id)!)"
        />
        <template v-if="session.teaches && !locked && !sheet.outcome.value.stops?.length" #acts>
          <el-button class="stop" type="danger" plain title="Key !" @click="dialog = 'stop'">Stop</el-button>
        </template>
      </SheetHead>
      <RecordNotices :sheet="sheet" :class-id="classId" />
      <StripDrawing
        v-if="sheet.sheet.value?.strip"
        class="strip"
        :strip="sheet.sheet.value.strip"
        :place="current?.step.place ?? null"
        :unit="preferences.lengthUnit"
      />
      <details class="cautions" :open="!sheet.signed.value && sheet.entries.value.length === 0">
        <summary>Cautions before the first step</summary>
        <ul>
          <li v-for="(caution, i) in sheet.sheet.value!.cautions" :key="i">
            <b v-if="caution.stop">Stop. </b>{{ caution.text }}
          </li>
        </ul>
      </details>
      <SplicerLine
        v-if="bench.splicer.value && !locked"
        class="splicer"
        :live="bench.splicer.value"
        :attempt-id="attemptId"
        @take="bench.takeSplice"
      />
      <section v-for="(step, i) in steps" :key="step.id" class="step" :aria-labelledby="`step-${step.id}`">
        <StepHead
          :step="step"
          :number="i + 1"
          :outcome="sheet.outcome.value.steps[i]!"
          :current="current?.step === step"
          :folded="folded"
        />
        <template v-for="item in byCriterion.get(step.id)" :key="item.criterion.id">
          <CriterionRow
            :ref="(el) => cursor.register(item.criterion.id, el)"
            :item="item"
            :outcome="sheet.outcomes.value.get(item.criterion.id)!"
            :entry="needsEntry(item) ? entryOf(item) : null"
            :about="aboutOf(item)"
            :current="current === item"
            :locked="locked"
            :length-unit="preferences.lengthUnit"
            :place="place"
            :offset-ms="sheet.offsetMs.value"
            :choice="choiceOf(item)"
            :name-of="nameOf"
            :label-of="labelOf"
            :origin="originFor(item)"
            :port-light="item.criterion.kind === 'map' ? bench.portLight.value : null"
            :graded="isEndFace(item.criterion) ? gradedFace.level.value : null"
            @keep="keep"
            @timer="(act) => (act === 'start' ? startTimer(item) : dropTimer(item))"
            @select="cursor.select(item)"
            @value="(value, source, note) => cursor.enter(item, '', value, source, note)"
            @done="cursor.leave(item)"
          >
            <LossField
              v-if="item.criterion.kind === 'loss' && !isGrid(item.criterion)"
              :ref="(el) => cursor.registerField(item.criterion.id, el)"
              :criterion="item.criterion"
              :outcome="sheet.outcomes.value.get(item.criterion.id)!"
              :entry-by-id="sheet.entryById"
              :references="sheet.references.value"
              :reference-for="referenceFor"
              :locked="locked"
              :attempt-id="attemptId"
              :instrument-id="instrumentId"
              :conditioned="bench.conditionedOf(item.criterion)"
              :trainee-reading="(part) => ownReading(sheet.entries.value, item.criterion.id, part)"
              @focus="cursor.select(item)"
              @value="(part, value) => cursor.enter(item, part, bench.withCord(value), 'instrument')"
              @void="
                (part, reason) =>
                  sheet.add({ kind: 'void', criterionId: item.criterion.id, part, voidReason: reason })
              "
              @reference="dialog = 'reference'"
              @reread="dialog = 'reread'"
            />
            <template v-else-if="isGrid(item.criterion)">
              <ReadingsGrid
                :criterion="item.criterion"
                :outcome="sheet.outcomes.value.get(item.criterion.id)!"
                :entry-by-id="sheet.entryById"
                :reference-for="referenceFor"
                :locked="locked"
                :attempt-id="attemptId"
                :instrument-id="instrumentId"
                @focus="cursor.select(item)"
                @values="
                  (values) =>
                    cursor.enterParts(
                      item,
                      values.map((v) => ({ ...v, value: bench.withCord(v.value) })),
                    )
                "
                @void="
                  (part, reason) =>
                    sheet.add({ kind: 'void', criterionId: item.criterion.id, part, voidReason: reason })
                "
                @reference="dialog = 'reference'"
                @reread="dialog = 'reread'"
                @done="cursor.leave(item)"
              />
              <LimitDetails
                v-if="item.criterion.kind === 'loss'"
                class="details"
                :criterion="item.criterion"
              />
            </template>
          </CriterionRow>
        </template>
      </section>
    </section>
    <div class="side">
      <OutcomePanel
        :sheet="sheet.sheet.value!"
        :outcome="sheet.outcome.value"
        :if-signed="sheet.ifSigned.value"
        :criteria="sheet.criteria.value"
        :signed="sheet.signed.value"
        :pending="sheet.pending.value"
        :can-sign="session.teaches"
        :dismissed="dismissed"
        @go="cursor.go"
        @charge="charge"
        @dismiss="dismiss"
        @sign="dialog = 'sign'"
      />
      <SheetDock
        v-if="current && !locked"
        class="dock-place"
        :item="current"
        :outcome="sheet.outcomes.value.get(current.criterion.id)!"
        :undo-label="undoLabel"
        :open-in-step="openOfStep"
        :open-sampled="sampledLeft"
        @pass-step="cursor.passStep"
        @rest-not-seen="cursor.restNotSeen"
        @pass="cursor.enter(current!, '', { kind: 'check', passed: true }, 'typed')"
        @fail="cursor.enter(current!, '', { kind: 'check', passed: false }, 'typed')"
        @fault="cursor.toggleFault"
        @not-seen="cursor.notSeen"
        @note="dialog = 'note'"
        @undo="cursor.undo"
        @keys="dialog = 'keys'"
      />
    </div>
    <SheetDialogs
      v-model="dialog"
      :sheet="sheet"
      :cursor="cursor"
      :class-id="classId"
      :attempt-id="attemptId"
      :instrument-id="instrumentId"
      :cord="bench.cord.value"
    />
  </div>
</template>

<style scoped>
.sheet-grid {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) 340px;
  height: 100%;
}
.step {
  contain: layout style;
}
@media (hover: hover) and (pointer: fine) {
  .work {
    --tap: 36px;
  }
}
.rail {
  contain: layout style paint;
  border-right: 1px solid var(--hair);
  overflow-y: auto;
}
.work {
  /* A change in one column lays out that column alone. */
  contain: layout style paint;
  position: relative;
  overflow-y: auto;
  padding: 0 0 180px;
}
.stop {
  min-width: 84px;
  font-weight: 700;
}
.strip {
  padding: 4px 20px;
  border-bottom: 1px solid var(--hair);
  background: var(--sheet);
}
.splicer {
  position: sticky;
  top: 92px;
  z-index: 3;
}
.cautions {
  padding: 0 20px;
  border-bottom: 1px solid var(--hair);
}
.details {
  grid-column: 1 / -1;
  padding: 0 0 10px 42px;
}
.cautions ul {
  margin: 0 0 12px;
  padding-left: 20px;
}
.side {
  border-left: 1px solid var(--hair);
  background: var(--sheet);
  overflow-y: auto;
  display: flex;
  flex-direction: column;
}
.dock-place {
  position: fixed;
  left: 84px;
  right: 340px;
  bottom: 0;
  z-index: 5;
}
@media (max-width: 1000px) {
  .sheet-grid {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr) auto;
  }
  .rail {
    border-right: 0;
    border-bottom: 1px solid var(--hair);
  }
  .work {
    padding-bottom: 24px;
  }
  .side {
    border-left: 0;
    border-top: 1px solid var(--hair-strong);
    overflow: visible;
    flex-direction: column-reverse;
  }
  .dock-place {
    position: static;
  }
}
</style>
