<script setup lang="ts">
import type { MeasuredRow, RowFiber } from '@clear-mark/core';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** The fibers of a row, each large enough to be looked at, numbered from the left. */
defineProps<{ row: MeasuredRow & { ok: true }; url: string; width: number; height: number }>();
const box = (f: RowFiber): string => {
  const r = f.face.ok ? f.face.claddingDiameterPx * 0.58 : 140;
  return `${f.centrePx[0] - r} ${f.centrePx[1] - r} ${2 * r} ${2 * r}`;
};
</script>

<template>
  <ul>
    <li v-for="f in row.fibers" :key="f.fiber">
      <svg :viewBox="box(f)" role="img" :aria-label="`Fiber ${f.fiber}`">
        <image :href="url" :width="width" :height="height" />
        <g v-if="f.face.ok" fill="none" stroke="#fff">
          <circle
            v-for="(d, i) in f.face.features"
            :key="i"
            :cx="f.face.centrePx[0] + d.xUm / f.face.umPerPx"
            :cy="f.face.centrePx[1] + d.yUm / f.face.umPerPx"
            :r="d.sizeUm / f.face.umPerPx / 2 + 5"
            stroke-width="2"
            stroke-dasharray="6 4"
          />
        </g>
      </svg>
      <span class="row">
        <b>{{ f.fiber }}</b>
        <VerdictRing v-if="f.face.ok" :verdict="f.face.grade.verdict" :size="20" word />
        <span v-else class="soft">not graded</span>
      </span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 12px;
}
svg {
  width: 100%;
  aspect-ratio: 1;
  background: #000;
  display: block;
}
</style>
