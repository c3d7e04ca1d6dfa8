<script setup lang="ts">
import {
  checkValue,
  type CriterionOutcome,
  DomainError,
  type Entry,
  type EntryValue,
  secondsFromText,
  type TimedCriterion,
  timerLeftRunning,
} from '@clear-mark/core';
import type { ErrorCode } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { bandOfCriterion } from '../../shared/band-scale.model.ts';
import BandScale from '../../shared/BandScale.vue';
import { clockText } from '../../shared/time-words.ts';
import { timers } from '../../shell/timers.ts';
import type { SheetPlace } from './sheet.model.ts';
import { useCommittedValue } from './use-committed-value.ts';

const props = defineProps<{
  criterion: TimedCriterion;
  entry: Entry | null;
  outcome: CriterionOutcome;
  locked: boolean;
  place: SheetPlace;
  /** How far the server's clock is ahead of this device's, ms. */
  offsetMs: number;
}>();
const emit = defineEmits<{
  value: [value: EntryValue, source: 'typed' | 'timer'];
  focus: [];
  start: [];
  drop: [];
}>();

const scale = computed(() => bandOfCriterion(props.criterion)!);
const startedAt = computed(() => timers.startedAt(props.place.attemptId, props.criterion.id));

const running = computed(() =>
  startedAt.value === null ? null : Math.max(0, (timers.now.value - Date.parse(startedAt.value)) / 1000),
);
/** When it was stopped, while the person is asked about a timer that looks forgotten. */
const leftAt = ref<string | null>(null);
const leftFor = computed(() =>
  leftAt.value === null || startedAt.value === null ? null : secondsBetween(startedAt.value, leftAt.value),
);
const timeProblem = ref<string | null>(null);
const {
  text,
  problem,
  take: takeText,
  leave,
} = useCommittedValue({
  stands: () => (props.outcome.value === null ? '' : clockText(props.outcome.value)),
  commit: (written) => emit('value', { kind: 'timed', text: secondsFromText(written) }, 'typed'),
});
const error = computed(() => problem.value ?? timeProblem.value);
const shown = computed(() => running.value ?? props.outcome.value);

function toggle(): void {
  emit('focus');
  timeProblem.value = null;
  const from = startedAt.value;
  if (from === null) return emit('start');
  const stoppedAt = new Date().toISOString();
  // Left on over night: nothing is stored before the person has said so.
  if (leftAt.value === null && timerLeftRunning(props.criterion.band, secondsBetween(from, stoppedAt))) {
    leftAt.value = stoppedAt;
    return;
  }
  keep(from, leftAt.value ?? stoppedAt);
}
/** The start is an instant of the server's clock; on the sheet it stands on this device's, like the stop. */
const onThisClock = (at: string): string => new Date(Date.parse(at) - props.offsetMs).toISOString();
const secondsBetween = (from: string, to: string): number =>
  (Date.parse(to) - Date.parse(onThisClock(from))) / 1000;
function keep(from: string, stoppedAt: string): void {
  const started = onThisClock(from);
  // A start of this very second, on a clock that was corrected meanwhile, is not before its stop.
  const value: EntryValue = {
    kind: 'timed',
    startedAt: started < stoppedAt ? started : stoppedAt,
    stoppedAt,
  };
  try {
    checkValue(props.criterion, '', value);
    drop();
    emit('value', value, 'timer');
  } catch (failed) {
    if (!(failed instanceof DomainError)) throw failed;
    timeProblem.value = errorWords(failed.code as ErrorCode, failed.params);
  }
}
function drop(): void {
  leftAt.value = null;
  emit('drop');
}

const take = (): void => void (running.value === null ? takeText() : toggle());
</script>

<template>
  <div class="timed">
    <BandScale :scale="scale" :value="shown" :verdict="running === null ? outcome.verdict : null" unit="s" />
    <span v-if="running !== null" class="figure clock" role="timer">{{ clockText(running) }}</span>
    <label v-else>
      <span class="sr">{{ criterion.label }}, minutes and seconds or seconds</span>
      <input
        v-model="text"
        data-number
        inputmode="text"
        autocomplete="off"
        placeholder="m:ss"
        :readonly="locked"
        @focus="emit('focus')"
        @keydown.enter.prevent="take"
        @blur="leave"
      />
    </label>
    <button v-if="!locked" class="act" :class="{ next: running !== null }" type="button" @click="toggle">
      {{ running === null ? 'Start' : 'Stop' }}
    </button>
    <div v-if="leftFor !== null" class="say" role="alert">
      <p>It ran {{ clockText(leftFor) }}: left on? Nothing is stored yet.</p>
      <div class="row">
        <button class="act next" type="button" @click="drop">Discard the time</button>
        <button class="act" type="button" @click="toggle">Keep it</button>
      </div>
    </div>
    <p v-if="error" class="say" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.timed {
  display: grid;
  grid-template-columns: minmax(100px, 200px) auto auto;
  justify-content: start;
  align-items: center;
  gap: 4px 8px;
}
.clock,
input {
  width: 92px;
}
.clock {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
  justify-content: flex-end;
  font-size: 1.5rem;
  font-weight: 700;
}
input::placeholder {
  font-weight: 400;
  font-size: 1rem;
  color: var(--ink-soft);
}
.act {
  min-width: 76px;
}
.say {
  grid-column: 1 / -1;
  border-left: 4px solid var(--ink);
  background: var(--sunk);
  padding: 4px 10px;
}
</style>
