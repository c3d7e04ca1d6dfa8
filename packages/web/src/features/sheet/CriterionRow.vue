<script setup lang="ts">
import { coverageOf, type CriterionOutcome, type Entry, type EntryValue } from '@clear-mark/core';
import { COVERAGE_WORDS, reasonWords, sourceKindWords, VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import CallField from './CallField.vue';
import EntryChoice from './EntryChoice.vue';
import EntryOrigin from './EntryOrigin.vue';
import type { Origin } from './origins.model.ts';
import CountField from './CountField.vue';
import GradeField from './GradeField.vue';
import { limitWords, sourcesOf } from '../../shared/limit-words.ts';
import MapField from '../../shared/MapField.vue';
import type { LiveInstrument } from '../../instruments/instruments.model.ts';
import MeasureField from './MeasureField.vue';
import PortLightWalk from './PortLightWalk.vue';
import PictureButton from './PictureButton.vue';
import { pictureOf } from './pictures.model.ts';
import type { SheetCriterion, SheetPlace } from './sheet.model.ts';
import TimedField from './TimedField.vue';

const props = defineProps<{
  item: SheetCriterion;
  outcome: CriterionOutcome;
  entry: Entry | null;
  /** What a call is about. */
  about: CriterionOutcome | null;
  current: boolean;
  locked: boolean;
  lengthUnit: 'mm' | 'in';
  place: SheetPlace;
  offsetMs: number;
  /** Entries to choose between, or a trainee's to witness. */
  choice: { readonly act: 'keep' | 'seen'; readonly entries: readonly Entry[] } | null;
  nameOf: (personId: string) => string;
  /** The label of any criterion of the sheet. */
  labelOf: (criterionId: string) => string;
  /** Where its entries came from, where that is not plain. */
  origin?: Origin | null;
  /** An instrument that can walk the ports of a map. */
  portLight?: LiveInstrument | null;
  /** The level that a picture gives to a face, and what graded it so. */
  graded?: string | null;
  gradedBy?: string;
  /** What else is known of the same thing. */
  beside?: string | null;
}>();
const emit = defineEmits<{
  select: [];
  value: [value: EntryValue, source: 'typed' | 'timer' | 'instrument', note?: string | null];
  done: [];
  keep: [entry: Entry];
  timer: [act: 'start' | 'drop'];
  picture: [];
}>();

const criterion = computed(() => props.item.criterion);
const open = computed(() => props.outcome.state === 'open' || props.outcome.state === 'not_seen');
const isCheck = computed(() => criterion.value.kind === 'check');
const limit = computed(() => limitWords(criterion.value, props.lengthUnit));
const why = computed(() =>
  props.outcome.state === 'open' && props.outcome.reasons[0]?.code === 'open.not_scored'
    ? ''
    : props.outcome.reasons.map((r) => reasonWords(r, props.labelOf)).join('; '),
);
const stateWord = computed(() => {
  if (props.outcome.state === 'not_seen') return 'Not seen';
  if (props.outcome.state === 'conflict') return 'Two results';
  return VERDICT_WORDS[props.outcome.verdict];
});

/** One tap anywhere on an open check passes it; a scored row is only chosen, so that a slip changes nothing. */
function tap(): void {
  if (isCheck.value && open.value && !props.locked) emit('value', { kind: 'check', passed: true }, 'typed');
  else emit('select');
}
</script>

<template>
  <div
    :id="`row-${item.index}`"
    class="row-of"
    :class="{ current, done: !open, check: isCheck }"
    :data-criterion="criterion.id.split('/').pop()"
    :data-state="outcome.state"
    :data-verdict="outcome.verdict"
  >
    <button class="main" type="button" :aria-current="current ? 'step' : undefined" @click="tap">
      <VerdictRing :verdict="outcome.verdict" :share="0" :size="26" />
      <span class="label">
        <span class="name"
          >{{ criterion.label }}<span v-if="criterion.stop" class="tag stop">stop</span
          ><span v-else-if="criterion.critical" class="tag">critical</span
          ><span v-if="!criterion.required" class="tag">{{
            COVERAGE_WORDS[coverageOf(criterion)]
          }}</span></span
        >
        <span v-if="limit || why" class="sub" :class="{ why: why !== '' }">{{
          why || `${limit} (${sourceKindWords(sourcesOf(criterion)[0]!)})`
        }}</span>
        <span v-if="beside" class="sub" data-test="beside">{{ beside }}</span>
      </span>
      <span v-if="!open && isCheck" class="state">{{ stateWord }}</span>
      <span v-else-if="isCheck && outcome.state === 'not_seen'" class="state">Not seen</span>
    </button>
    <button
      v-if="isCheck && open && !locked"
      class="act failing"
      type="button"
      :aria-label="`Fail: ${criterion.label}`"
      @click="emit('value', { kind: 'check', passed: false }, 'typed')"
    >
      Fail
    </button>
    <MeasureField
      v-else-if="criterion.kind === 'measure'"
      :criterion="criterion"
      :entry="entry"
      :outcome="outcome"
      :locked="locked"
      :length-unit="lengthUnit"
      :pictured="pictureOf(item) !== null"
      @picture="emit('picture')"
      @focus="emit('select')"
      @value="emit('value', $event, 'typed')"
    />
    <CountField
      v-else-if="criterion.kind === 'count'"
      :criterion="criterion"
      :entry="entry"
      :outcome="outcome"
      :locked="locked"
      @focus="emit('select')"
      @value="emit('value', $event, 'typed')"
    />
    <TimedField
      v-else-if="criterion.kind === 'timed'"
      :criterion="criterion"
      :entry="entry"
      :outcome="outcome"
      :locked="locked"
      :place="place"
      :offset-ms="offsetMs"
      @start="emit('timer', 'start')"
      @drop="emit('timer', 'drop')"
      @focus="emit('select')"
      @value="(v, s) => emit('value', v, s)"
    />
    <PictureButton
      v-if="criterion.kind === 'grade' && pictureOf(item) !== null && !locked"
      @picture="emit('picture')"
    />
    <GradeField
      v-if="criterion.kind === 'grade'"
      :criterion="criterion"
      :entry="entry"
      :locked="locked"
      :graded="graded"
      :graded-by="gradedBy"
      @value="(value, note) => emit('value', value, 'typed', note)"
    />
    <CallField
      v-else-if="criterion.kind === 'call'"
      :criterion="criterion"
      :entry="entry"
      :about="about"
      :locked="locked"
      @value="emit('value', $event, 'typed')"
    />
    <MapField
      v-else-if="criterion.kind === 'map'"
      :criterion="criterion"
      :outcome="outcome"
      :entry="entry"
      :locked="locked"
      @focus="emit('select')"
      @value="emit('value', $event, 'typed')"
      @done="emit('done')"
    >
      <PortLightWalk
        v-if="portLight && !locked"
        :live="portLight"
        :ports="criterion.ports"
        :attempt-id="place.attemptId"
        @far="(far) => emit('value', { kind: 'map', far }, 'instrument')"
      />
    </MapField>
    <slot v-else-if="criterion.kind === 'loss' || criterion.kind === 'readings'" />
    <EntryOrigin v-if="origin" :origin="origin" />
    <EntryChoice
      v-if="choice"
      :criterion="criterion"
      :entries="choice.entries"
      :act="choice.act"
      :name-of="nameOf"
      :locked="locked"
      @keep="emit('keep', $event)"
    />
  </div>
</template>

<style scoped>
.row-of {
  contain: layout style;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 4px 12px;
  padding: 4px 12px 4px 8px;
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
  min-height: 60px;
  scroll-margin: 140px 0 160px;
}
.row-of.current {
  border-left-color: var(--accent);
  background: var(--accent-wash);
}
.main {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 52px;
  padding: 2px 4px;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
  width: 100%;
}
.label {
  display: grid;
  flex: 1;
  min-width: 0;
}
.name {
  font-size: 1.0625rem;
}
.check:not(.done) .name {
  font-weight: 700;
}
.sub {
  color: var(--ink-soft);
  font-size: 0.875rem;
}
.sub.why {
  color: var(--ink);
}
.tag {
  display: inline-block;
  margin-left: 8px;
  padding: 0 6px;
  border: 1px solid var(--hair-strong);
  border-radius: 3px;
  font-size: 0.8125rem;
  font-weight: 400;
  color: var(--ink-soft);
}
.tag.stop {
  border-color: var(--ink);
  color: var(--ink);
}
.state {
  min-width: 78px;
  text-align: right;
  font-weight: 700;
  padding-right: 4px;
}
.failing {
  min-width: 78px;
}
/* A mouse needs no finger's width: more of the sheet is seen at once. */
@media (hover: hover) and (pointer: fine) {
  .row-of {
    min-height: 37px;
    padding-top: 0;
    padding-bottom: 0;
  }
  .main {
    min-height: 36px;
  }
  .label {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 10px;
  }
}
@container sheet (max-width: 640px) {
  .row-of:not(.check) {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 800px) {
  .row-of:not(.check) {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
