<script setup lang="ts">
import {
  checkValue,
  type EntryValue,
  type LossCriterion,
  lossSlip,
  type ReadingVoidReason,
} from '@clear-mark/core';
import { DIRECTION_WORDS, reasonWords, UNIT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import ActMenu from '../../shared/ActMenu.vue';
import BandScale from '../../shared/BandScale.vue';
import { timeOfDay } from '../../shared/time-words.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import { ageWords, lossOf, type LossUnit, type ShownLossLine } from './loss-field.model.ts';
import { valueText } from './sheet.model.ts';
import { useCommittedValue } from './use-committed-value.ts';
import { voidActs } from './void-acts.ts';

/** One place of a loss test: typed, read from the meter, dark or void. */
const props = defineProps<{
  criterion: LossCriterion;
  line: ShownLossLine;
  /** In which it is typed from now on. */
  unit: LossUnit;
  locked: boolean;
  /** The sheet has a meter, and it shows something at this wavelength. */
  metered: boolean;
  live: object | null;
  /** Which instrument read what stands. */
  stamp: string | null;
  /** The trainee's own reading beside it. */
  beside: string | null;
}>();
const emit = defineEmits<{
  value: [value: EntryValue];
  void: [reason: ReadingVoidReason];
  focus: [];
  live: [];
}>();

const standing = computed(() => (props.line.entry?.value?.kind === 'loss' ? props.line.entry.value : null));
const stands = computed(() => valueText(standing.value));
const { text, changed, asking, problem, take, leave } = useCommittedValue({
  stands: () => stands.value,
  looksSlipped: (written) => {
    const value = valueOf(written);
    // Without a reference nothing can be typed.
    if (!value || !props.line.reference) return false;
    checkValue(props.criterion, props.line.part, value);
    return lossSlip(value, props.line.reference, props.line.terms) !== null;
  },
  commit: (written, confirmed) => {
    const value = valueOf(written);
    if (value) emit('value', confirmed ? { ...value, slipConfirmed: true } : value);
  },
});
const typedUnit = computed<LossUnit>(() =>
  standing.value && !changed.value ? (standing.value.unit as LossUnit) : props.unit,
);
const valueOf = (written: string) =>
  props.line.reference
    ? ({ kind: 'loss', text: written, unit: typedUnit.value, referenceId: props.line.reference.id } as const)
    : null;
const typedLoss = computed((): number | null => {
  const value = text.value.trim() === '' ? null : valueOf(text.value.trim());
  return value && props.line.reference ? lossOf(value, props.line.reference, props.criterion) : null;
});
function noLight(): void {
  const { reference } = props.line;
  if (reference) emit('value', { kind: 'loss', unit: 'dBm', noLight: true, referenceId: reference.id });
}
</script>

<template>
  <div class="line" :data-part="line.part">
    <div class="nm">
      <span class="figure">{{ line.nm }}</span>
      <span class="unit"
        >nm<template v-if="line.direction">, {{ DIRECTION_WORDS[line.direction] }}</template></span
      >
      <p class="small soft">
        <template v-if="line.reference"
          >ref {{ line.reference.valueDbm }} dBm, {{ line.reference.instrumentLabel }},
          {{ timeOfDay(line.reference.setAt) }}, {{ ageWords(line.reference.setAt, Date.now()) }}</template
        >
        <template v-else>no reference yet</template>
        <template v-if="stamp"><br />{{ stamp }}</template>
      </p>
    </div>
    <BandScale
      :scale="{
        from: 0,
        to: line.terms.limitDb * 2,
        lower: null,
        upper: line.terms.limitDb,
        target: line.terms.expectedDb,
      }"
      :value="typedLoss"
      :verdict="line.judged?.verdict ?? null"
      unit="dB"
    />
    <label class="typed">
      <span class="sr"
        >Reading at {{ line.nm }} nm{{ line.direction ? ` ${DIRECTION_WORDS[line.direction]}` : '' }},
        {{ typedUnit }}</span
      >
      <input
        v-model="text"
        data-number
        inputmode="text"
        autocomplete="off"
        :readonly="locked || line.reference === null"
        @focus="emit('focus')"
        @keydown.enter.prevent="take"
        @blur="leave"
      />
      <span class="unit">{{ UNIT_WORDS[typedUnit] }}</span>
    </label>
    <div class="found">
      <template v-if="line.judged && line.judged.verdict !== 'incomplete'">
        <VerdictRing :verdict="line.judged.verdict" :size="24" />
        <span v-if="line.judged.lossDb !== null" class="figure">{{ line.judged.lossDb.toFixed(2) }}</span>
        <span v-if="line.judged.lossDb !== null" class="unit">dB</span>
      </template>
      <template v-else-if="typedLoss !== null"
        ><span class="figure">{{ typedLoss.toFixed(2) }}</span> <span class="unit">dB</span></template
      >
    </div>
    <div v-if="!locked" class="row more">
      <button
        v-if="metered"
        class="act"
        type="button"
        :disabled="!line.reference || !live"
        :title="live ? 'Take what the meter shows' : `The meter is not at ${line.nm} nm`"
        @click="emit('live')"
      >
        Take
      </button>
      <button class="act" type="button" :disabled="!line.reference" @click="noLight">No light</button>
      <ActMenu
        label="Void"
        :name="`Void the reading at ${line.nm} nm${line.direction ? ` ${DIRECTION_WORDS[line.direction]}` : ''}`"
        :acts="voidActs"
        @choose="(reason) => emit('void', reason)"
      />
    </div>
    <p v-if="line.judged?.reason && line.judged.verdict !== 'incomplete'" class="why">
      {{ reasonWords(line.judged.reason, () => criterion.label) }}
    </p>
    <p v-if="beside" class="why">{{ beside }}</p>
    <p v-if="problem" class="why say" role="alert">{{ problem }}</p>
    <p v-else-if="asking" class="why say" role="alert">
      {{ asking }} {{ UNIT_WORDS[typedUnit] }} looks like a slip of the decimal sign. Enter again keeps it as
      typed.
    </p>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 150px minmax(110px, 1fr) auto 110px auto;
  align-items: center;
  gap: 4px 10px;
  border-top: 1px solid var(--hair);
  padding-top: 6px;
}
.typed {
  display: inline-flex;
  align-items: baseline;
  gap: 4px;
}
input {
  width: 92px;
}
input:read-only {
  border-bottom-style: dashed;
}
.found {
  display: flex;
  align-items: center;
  gap: 6px;
}
.more {
  flex-wrap: nowrap;
}
.more .act {
  padding: 0 8px;
}
.why {
  grid-column: 2 / -1;
  font-size: 0.9375rem;
}
.say {
  border-left: 4px solid var(--ink-soft);
  background: var(--sunk);
  padding: 4px 10px;
}
@media (max-width: 1100px) {
  .line {
    grid-template-columns: 1fr 1fr auto;
  }
}
</style>
