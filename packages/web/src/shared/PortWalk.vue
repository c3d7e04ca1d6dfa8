<script setup lang="ts">
import { fiberColour } from '@clear-mark/core';
import { computed } from 'vue';

/** Two rows of ports with the light between them: tapped in turn, drawn as it was found. */
const props = defineProps<{
  label: string;
  /** By near port from 1: the far port that lit, 0 for no light, null while it is not walked. */
  far: readonly (number | null)[];
  /** Where each should come out, once all are walked; null before that. */
  expected: readonly (number | null)[] | null;
  near: number;
  clash: readonly number[];
  locked: boolean;
}>();
const emit = defineEmits<{ choose: [near: number]; light: [far: number] }>();

const ROW = 46;
const ports = computed(() => props.far.length);
const y = (port: number): number => (port - 0.5) * ROW;
const right = (port: number): boolean => props.far[port - 1] === props.expected?.[port - 1];
const takenBy = (port: number): number => props.far.indexOf(port) + 1;
</script>

<template>
  <div class="walk" role="group" :aria-label="label">
    <div class="side">
      <button
        v-for="port in ports"
        :key="port"
        class="port"
        :class="{ here: port === near && !locked && expected === null, clash: clash.includes(port) }"
        type="button"
        :aria-label="`Near port ${port}${far[port - 1] === null ? '' : far[port - 1] === 0 ? ', no light' : `, far port ${far[port - 1]}`}`"
        :aria-current="port === near ? 'step' : undefined"
        @click="emit('choose', port)"
      >
        <i :style="{ background: `var(--fiber-${fiberColour(port)})` }" :title="fiberColour(port)" />
        {{ port }}
      </button>
    </div>
    <svg :viewBox="`0 0 220 ${ROW * ports}`" :height="ROW * ports" width="220" aria-hidden="true">
      <template v-for="port in ports" :key="port">
        <line
          v-if="far[port - 1]"
          x1="0"
          :y1="y(port)"
          x2="220"
          :y2="y(far[port - 1]!)"
          :class="expected === null ? 'lit' : right(port) ? 'right' : 'wrong'"
        />
        <path v-else-if="far[port - 1] === 0" class="dark" :d="`M0 ${y(port)}h34m-8 -8l16 16m0 -16l-16 16`" />
        <path
          v-if="expected && far[port - 1] && !right(port)"
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
        @click="emit('light', port)"
      >
        {{ port }}
      </button>
    </div>
  </div>
</template>

<style scoped>
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
@media (max-width: 800px) {
  svg {
    width: 120px;
  }
}
</style>
