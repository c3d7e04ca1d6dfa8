<script setup lang="ts">
import {
  checkValue,
  type CriterionOutcome,
  decimalSlip,
  type Entry,
  type EntryValue,
  isWorkedOut,
  type MeasureCriterion,
  toBaseUnit,
  decimalToNumber,
  type Unit,
  type Verdict,
  compileBand,
  judgeBand,
} from '@clear-mark/core';
import { UNIT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { bandOfCriterion } from '../../shared/band-scale.model.ts';
import BandScale from '../../shared/BandScale.vue';
import PictureButton from './PictureButton.vue';
import { valueText } from './sheet.model.ts';
import { useCommittedValue } from './use-committed-value.ts';

const props = defineProps<{
  criterion: MeasureCriterion;
  entry: Entry | null;
  outcome: CriterionOutcome;
  locked: boolean;
  lengthUnit: 'mm' | 'in';
  /** Whether it can be measured in a picture. */
  pictured?: boolean;
}>();
const emit = defineEmits<{ value: [value: EntryValue]; focus: []; picture: [] }>();

const unit = computed<Unit>(() => (props.criterion.unit === 'mm' ? props.lengthUnit : props.criterion.unit));
const stands = computed(() => valueText(props.entry?.value ?? null));
const {
  text,
  asking,
  problem: error,
  take,
  leave,
} = useCommittedValue({
  stands: () => stands.value,
  settled: () => props.outcome.state === 'scored',
  looksSlipped: () => {
    checkValue(props.criterion, '', typed.value);
    return decimalSlip(props.criterion, typed.value) !== null;
  },
  commit: (_, confirmed) => emit('value', confirmed ? { ...typed.value, slipConfirmed: true } : typed.value),
});

const scale = computed(() => bandOfCriterion(props.criterion)!);
const shownUnit = computed<Unit>(() => {
  const value = props.entry?.value;
  return value?.kind === 'measure' && text.value === stands.value ? value.unit : unit.value;
});
const typed = computed<EntryValue & { kind: 'measure' }>(() => ({
  kind: 'measure',
  text: text.value.trim(),
  unit: shownUnit.value,
}));

/** The typed value as a number and its verdict while it is typed; nothing while it is no number yet. */
const live = computed<{ value: number; verdict: Verdict } | null>(() => {
  if (text.value.trim() === '') return null;
  try {
    const number = toBaseUnit(text.value, shownUnit.value);
    const band = compileBand(props.criterion.band, props.criterion.unit, props.criterion.uncertainty);
    return { value: decimalToNumber(number), verdict: judgeBand(number, band).verdict };
  } catch {
    return null;
  }
});

/** Whether something else is typed than what stands: until then the place of OK is the camera's. */
const isTyped = computed(() => text.value.trim() !== (stands.value ?? ''));
const workedOut = computed(() => isWorkedOut(props.criterion));
/** What the scale shows: the typed value, or what is left of it once the other length is taken off. */
const shown = computed<{ value: number; verdict: Verdict } | null>(() => {
  if (props.criterion.less === undefined && !workedOut.value) return live.value;
  const { value, verdict, state } = props.outcome;
  return state === 'scored' && value !== null ? { value, verdict } : null;
});
const left = computed(() =>
  props.criterion.less !== undefined && shown.value && shown.value.value >= 0
    ? `${Math.round(shown.value.value * 1000) / 1000} ${UNIT_WORDS[props.criterion.unit]} left`
    : null,
);
</script>

<template>
  <div class="measure">
    <BandScale
      class="scale"
      :scale="scale"
      :value="shown?.value ?? null"
      :verdict="shown?.verdict ?? null"
      :unit="UNIT_WORDS[criterion.unit]"
    />
    <p v-if="workedOut" class="worked">
      <span class="figure">{{ shown ? shown.value.toFixed(2) : '' }}</span>
      <span class="unit">{{ shown ? UNIT_WORDS[criterion.unit] : 'from the readings of the row' }}</span>
    </p>
    <label v-else class="typed">
      <span class="sr">{{ criterion.label }}, {{ UNIT_WORDS[shownUnit] }}</span>
      <input
        v-model="text"
        data-number
        inputmode="decimal"
        autocomplete="off"
        :readonly="locked"
        :aria-invalid="error !== null"
        @focus="emit('focus')"
        @keydown.enter.prevent="take"
        @blur="leave"
      />
      <span class="unit">{{ UNIT_WORDS[shownUnit] }}</span>
    </label>
    <PictureButton v-if="pictured && !locked && !isTyped" class="take" @picture="emit('picture')" />
    <button
      v-else-if="!locked && !workedOut"
      class="act take"
      type="button"
      :disabled="live === null"
      @click="take"
    >
      OK
    </button>
    <p v-if="left" class="left small soft">{{ left }}</p>
    <p v-if="error" class="say bad" role="alert">{{ error }}</p>
    <p v-else-if="asking !== null" class="say" role="alert">
      {{ asking }} {{ UNIT_WORDS[shownUnit] }} looks like a slip of the decimal sign. Enter again keeps it as
      typed.
    </p>
  </div>
</template>

<style scoped>
.measure {
  display: grid;
  grid-template-columns: minmax(140px, 240px) auto auto;
  align-items: center;
  gap: 4px 8px;
}
.typed {
  display: inline-flex;
  align-items: baseline;
  gap: 4px;
}
input {
  width: 84px;
  padding: 0 4px;
}
.unit {
  width: 30px;
}
.take {
  justify-self: end;
  min-width: 52px;
  padding: 0 8px;
}
.left {
  grid-column: 1 / -1;
}
.say {
  grid-column: 1 / -1;
  font-size: 0.9375rem;
  border-left: 4px solid var(--ink-soft);
  background: var(--sunk);
  padding: 4px 10px;
  max-width: 420px;
}
.say.bad {
  border-color: var(--ink);
  background: var(--sunk);
}
</style>
