<script setup lang="ts">
import { type Cause, CHARGE_PART, dismissPart, HAND_PART, type Skill } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { useEventListener, whenever } from '@vueuse/core';
import { computed, onMounted, ref } from 'vue';
import StripDrawing from '../../shared/StripDrawing.vue';
import { usePreferences } from '../../shell/preferences.ts';
import { useFind } from '../../shell/use-find.ts';
import { useSession } from '../../session/session.ts';
import BenchRail from './BenchRail.vue';
import HandCall from './HandCall.vue';
import OutcomePanel from './OutcomePanel.vue';
import SheetActs from './SheetActs.vue';
import SheetCautions from './SheetCautions.vue';
import SheetDialogs from './SheetDialogs.vue';
import SheetDock from './SheetDock.vue';
import SheetHead from './SheetHead.vue';
import SheetRow from './SheetRow.vue';
import SplicerLine from './SplicerLine.vue';
import StepHead from './StepHead.vue';
import StopNotice from './StopNotice.vue';
import { isEndFace, openChecks, openSampled, standingDismissals } from './sheet.model.ts';
import RecordNotices from './RecordNotices.vue';
import { useGradedFace } from './use-graded-face.ts';
import { useSheet } from './use-sheet.ts';
import type { DialogName } from './cursor.model.ts';
import { useSheetCursor } from './use-sheet-cursor.ts';
import { useSheetInstruments } from './use-sheet-instruments.ts';
import { useNames } from './use-names.ts';
import { useStepText } from './use-step-text.ts';

const props = defineProps<{ classId: string; attemptId: string }>();
const preferences = usePreferences();
const session = useSession();
const find = useFind();
const sheet = useSheet(props.attemptId, props.classId);
const dialog = ref<DialogName | null>(null);
const railRef = ref<InstanceType<typeof BenchRail> | null>(null);
const cursor = useSheetCursor(sheet, {
  open: (name) => (dialog.value = name),
  isOpen: () => dialog.value !== null || find.isOpen,
  step: (by) => railRef.value?.step(by),
});
const { current, byStep } = cursor;

const nameOf = useNames();
const { folded } = useStepText(() => sheet.document.value?.attempt.traineeId);
const locked = computed(() => sheet.signed.value || !sheet.mine.value);
const steps = computed(() => sheet.sheet.value?.steps ?? []);
const place = computed(() => ({
  attemptId: props.attemptId,
  classId: props.classId,
  trainee: sheet.document.value?.attempt.traineeName ?? '',
}));
const atHand = computed(() => current.value ?? sheet.criteria.value[0] ?? null);
const openOfStep = computed(
  () => openChecks(byStep.value.get(atHand.value?.step.id ?? '') ?? [], sheet.outcomes.value).length,
);
const sampledLeft = computed(() => openSampled(sheet.criteria.value, sheet.outcomes.value).length);
function raiseHand(): void {
  const criterionId = atHand.value!.criterion.id;
  sheet.add({ kind: 'hand', criterionId, part: HAND_PART, value: { kind: 'hand' } });
}
const gradedFace = useGradedFace(props.classId, props.attemptId);
const bench = useSheetInstruments(sheet);
const instrumentId = bench.meterId;
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

// What the device keeps is worked on at once, while the server is still asked for what is newer.
useEventListener(window, 'keydown', cursor.onKey);
whenever(() => sheet.criteria.value.length > 0, cursor.toFirstOpen, { immediate: true, once: true });
onMounted(async () => {
  const placed = current.value;
  await sheet.load();
  if (current.value === placed) cursor.toFirstOpen();
  if (sheet.criteria.value.some((c) => isEndFace(c.criterion))) void gradedFace.load();
});
</script>

<template>
  <div v-if="sheet.failure.value && !sheet.document.value" class="page">
    <p class="notice bad" role="alert">{{ sheet.failure.value }}</p>
    <button class="act next" type="button" @click="sheet.load()">Try again</button>
  </div>
  <div v-else-if="sheet.document.value && sheet.outcome.value" class="sheet-grid">
    <BenchRail v-if="classId" ref="railRef" class="rail" :class-id="classId" :attempt-id="attemptId" />
    <section class="work" aria-label="Method sheet">
      <SheetHead :document="sheet.document.value" :class-id="classId" :entries="sheet.entries.value">
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
        <template v-if="session.teaches" #acts>
          <SheetActs
            :document="sheet.document.value"
            :class-id="classId"
            :can-stop="!locked && !sheet.outcome.value.stops?.length"
            @stop="dialog = 'stop'"
          />
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
      <SheetCautions
        :cautions="sheet.sheet.value!.cautions"
        :open="!sheet.signed.value && sheet.entries.value.length === 0"
      />
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
        <SheetRow
          v-for="item in byStep.get(step.id)"
          :key="item.criterion.id"
          :sheet="sheet"
          :cursor="cursor"
          :bench="bench"
          :item="item"
          :locked="locked"
          :place="place"
          :instrument-id="instrumentId"
          :name-of="nameOf"
          :graded="gradedFace.level.value"
          :reference-for="referenceFor"
          @dialog="dialog = $event"
        />
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
