<script setup lang="ts">
import {
  channelMap,
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  fiberColour,
  type MapCriterion,
  readTyped,
} from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { computed, nextTick, ref, watch } from 'vue';

/** The walk of the ports: light goes in at the near port that is marked, and the far port that lights is tapped. */
const props = defineProps<{
  criterion: MapCriterion;
  outcome: CriterionOutcome;
  entry: Entry | null;
  locked: boolean;
}>();
const emit = defineEmits<{ value: [value: EntryValue]; focus: []; done: [] }>();

const ROW = 46;
const ports = computed(() => Array.from({ length: props.criterion.ports }, (_, i) => i + 1));
const far = computed<readonly (number | null)[]>(() =>
  props.entry?.value?.kind === 'map' ? props.entry.value.far : ports.value.map(() => null),
);
const near = ref(1);
const text = ref('');
const problem = ref<{ words: string; ports: readonly number[] } | null>(null);
const input = ref<HTMLInputElement | null>(null);
const expected = computed(() =>
  channelMap({
    ports: props.criterion.ports,
    parts: props.criterion.parts ?? [{ kind: 'trunk', type: props.criterion.trunk }],
  }),
);
const complete = computed(() => far.value.every((port) => port !== null));
const right = (port: number): boolean => far.value[port - 1] === expected.value[port - 1];
const takenBy = (port: number): number => far.value.indexOf(port) + 1;

watch(
  () => props.entry?.id,
  () => {
    const open = far.value.findIndex((port) => port === null);
    if (open >= 0 && far.value[near.value - 1] !== null) near.value = open + 1;
    text.value = '';
  },
  { immediate: true },
);

function choose(port: number): void {
  near.value = port;
  problem.value = null;
  text.value = String(far.value[port - 1] ?? '');
  emit('focus');
}

/** Light at a far port, 0 for none. A port that lights for another already is marked and not stored. */
function light(port: number): void {
  emit('focus');
  if (props.locked) return;
  const other = port === 0 ? 0 : takenBy(port);
  if (other !== 0 && other !== near.value) {
    const params = { port, first: other, second: near.value };
    problem.value = { words: errorWords('map.port_twice', params), ports: [other, near.value] };
    return;
  }
  problem.value = null;
  if (far.value[near.value - 1] !== port) {
    const next = far.value.map((known, i) => (i === near.value - 1 ? port : known));
    emit('value', { kind: 'map', far: next });
    if (next.every((known) => known !== null)) {
      text.value = '';
      emit('done');
      return;
    }
  }
  if (near.value < props.criterion.ports) near.value += 1;
  text.value = '';
  void nextTick(() => input.value?.focus({ preventScroll: true }));
}

function typed(): void {
  const port = readTyped(text.value, { least: 0, most: props.criterion.ports, whole: true });
  if (port.kind === 'empty') return;
  if (port.kind !== 'number') {
    const params = { given: text.value.trim().slice(0, 8), ports: props.criterion.ports };
    problem.value = { words: errorWords('map.no_such_port', params), ports: [near.value] };
    return;
  }
  light(port.value);
}

/** Takes what is known of a near port away: to be walked again. */
function again(): void {
  problem.value = null;
  text.value = '';
  if (far.value[near.value - 1] === null) return;
  emit('value', { kind: 'map', far: far.value.map((known, i) => (i === near.value - 1 ? null : known)) });
}
const partWords = (part: NonNullable<MapCriterion['parts']>[number]): string =>
  part.kind === 'trunk'
    ? `trunk type ${part.type}`
    : part.kind === 'cassette'
      ? part.turned
        ? 'turned cassette'
        : 'cassette'
      : `${part.crossed ? 'A-to-B' : 'A-to-A'} cords`;
const y = (port: number): number => (port - 0.5) * ROW;
</script>

<template>
  <div class="map-field">
    <div class="walk" role="group" :aria-label="criterion.label">
      <div class="side">
        <button
          v-for="port in ports"
          :key="port"
          class="port"
          :class="{ here: port === near && !locked && !complete, clash: problem?.ports.includes(port) }"
          type="button"
          :aria-label="`Near port ${port}${far[port - 1] === null ? '' : far[port - 1] === 0 ? ', no light' : `, far port ${far[port - 1]}`}`"
          :aria-current="port === near ? 'step' : undefined"
          @click="choose(port)"
        >
          <i :style="{ background: `var(--fiber-${fiberColour(port)})` }" :title="fiberColour(port)" />
          {{ port }}
        </button>
      </div>
      <svg
        :viewBox="`0 0 220 ${ROW * criterion.ports}`"
        :height="ROW * criterion.ports"
        width="220"
        aria-hidden="true"
      >
        <template v-for="port in ports" :key="port">
          <line
            v-if="far[port - 1]"
            x1="0"
            :y1="y(port)"
            x2="220"
            :y2="y(far[port - 1]!)"
            :class="complete ? (right(port) ? 'right' : 'wrong') : 'lit'"
          />
          <path
            v-else-if="far[port - 1] === 0"
            class="dark"
            :d="`M0 ${y(port)}h34m-8 -8l16 16m0 -16l-16 16`"
          />
          <path
            v-if="complete && far[port - 1] && !right(port)"
            class="cross"
            :d="`M22 ${y(port) - 7}l14 14m0 -14l-14 14`"
          />
        </template>
      </svg>
      <div class="side">
        <button
          v-for="port in ports"
          :key="port"
          class="port"
          :class="{ taken: takenBy(port) > 0 }"
          type="button"
          :disabled="locked"
          :aria-label="`Light at far port ${port}`"
          @click="light(port)"
        >
          {{ port }}
        </button>
      </div>
    </div>
    <div class="beside">
      <p class="small soft">Near, where the light goes in. Far, where it comes out.</p>
      <template v-if="!locked">
        <label class="typed">
          <span
            >Near <b class="figure">{{ near }}</b> came out at far</span
          >
          <input
            ref="input"
            v-model="text"
            data-number
            inputmode="numeric"
            autocomplete="off"
            :aria-label="`Far port for near port ${near}, 0 for no light`"
            @focus="emit('focus')"
            @keydown.enter.prevent="typed"
          />
        </label>
        <div class="row">
          <button class="act" type="button" @click="light(0)">No light</button>
          <button class="act" type="button" :disabled="far[near - 1] === null" @click="again">
            Walk {{ near }} again
          </button>
        </div>
      </template>
      <p class="small soft">
        {{
          criterion.parts
            ? `This channel: ${criterion.parts.map(partWords).join(', ')}.`
            : `This trunk: type ${criterion.trunk}.`
        }}
      </p>
      <slot />
      <p v-if="problem" class="say" role="alert">{{ problem.words }}</p>
    </div>
  </div>
</template>

<style scoped>
.map-field {
  grid-column: 1 / -1;
  display: flex;
  gap: 28px;
  padding: 0 0 12px 42px;
}
.walk {
  display: flex;
  flex: none;
}
.side {
  display: grid;
  grid-auto-rows: 46px;
  align-items: center;
}
.port {
  width: 58px;
  height: 44px;
  border: 1px solid var(--hair-strong);
  border-radius: 22px;
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  background: var(--sheet);
  font-weight: 700;
  cursor: pointer;
}
.port i {
  display: inline-block;
  width: 10px;
  height: 10px;
  border: 1px solid var(--ink-soft);
  border-radius: 50%;
}
.port.here {
  border: 3px solid var(--accent);
  background: var(--accent-wash);
}
.port.taken {
  background: var(--sunk);
  border-color: var(--ink-soft);
}
.port.clash {
  border: 3px double var(--ink);
}
.port:disabled {
  cursor: default;
}
line {
  stroke-width: 3;
}
.lit {
  stroke: var(--ink-soft);
}
.right {
  stroke: var(--pass);
}
.wrong {
  stroke: var(--fail);
  stroke-dasharray: 9 5;
}
.cross,
.dark {
  fill: none;
  stroke: var(--fail);
  stroke-width: 3;
}
.dark {
  stroke: var(--ink);
}
.beside {
  display: grid;
  align-content: start;
  gap: 10px;
  position: sticky;
  top: 110px;
  align-self: start;
}
.typed {
  display: flex;
  align-items: baseline;
  gap: 8px;
  flex-wrap: wrap;
}
input {
  width: 64px;
  min-height: var(--tap);
  border: 0;
  border-bottom: 2px solid var(--hair-strong);
  background: transparent;
  text-align: center;
  font-size: 1.5rem;
  font-weight: 700;
}
input:focus {
  outline: none;
  border-bottom-color: var(--accent);
  background: var(--sheet);
}
.say {
  border-left: 4px solid var(--ink);
  background: var(--sunk);
  padding: 4px 10px;
  max-width: 300px;
}
@media (max-width: 800px) {
  .map-field {
    padding-left: 0;
    gap: 14px;
  }
  svg {
    width: 120px;
  }
}
</style>
