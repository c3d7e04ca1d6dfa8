<script setup lang="ts">
import {
  channelMap,
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  type MapCriterion,
  readTyped,
} from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { computed, nextTick, ref, watch } from 'vue';
import PortWalk from './PortWalk.vue';

/** The walk of the ports: light goes in at the near port that is marked, and the far port that lights is tapped. */
const props = defineProps<{
  criterion: MapCriterion;
  outcome: CriterionOutcome;
  entry: Entry | null;
  locked: boolean;
}>();
const emit = defineEmits<{ value: [value: EntryValue]; focus: []; done: [] }>();

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
</script>

<template>
  <div class="map-field">
    <PortWalk
      :label="criterion.label"
      :far="far"
      :expected="complete ? expected : null"
      :near="near"
      :clash="problem?.ports ?? []"
      :locked="locked"
      @choose="choose"
      @light="light"
    />
    <div class="beside">
      <p class="small soft">Near, where the light goes in. Far, where it comes out.</p>
      <template v-if="!locked">
        <label class="typed">
          <span>Near <b class="figure">{{ near }}</b> came out at far</span>
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
  text-align: center;
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
}
</style>
