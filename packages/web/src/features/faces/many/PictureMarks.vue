<script setup lang="ts">
import { computed } from 'vue';
import { pathOf, scaleOf } from '../inspect/face-marks.model.ts';
import { isGraded, isRow } from '../inspect/face-view.model.ts';
import type { PictureLine } from './many.model.ts';

/** A small picture with the cladding's edge and what was found; of a row, each fiber that fails is ringed. */
const props = defineProps<{ line: PictureLine }>();
const thumb = computed(() => props.line.picture.thumb);
const face = computed(() => (isGraded(props.line.picture.found) ? props.line.picture.found : null));
const fibers = computed(() => (isRow(props.line.picture.found) ? props.line.picture.found.fibers : []));
const stroke = computed(() => (thumb.value?.width ?? 1) / 150);
const marks = computed(() => {
  const found = face.value;
  if (!found) return [];
  const scale = scaleOf(found, stroke.value);
  return props.line.features.map((f) => ({
    number: f.number,
    decides: f.decides,
    path: pathOf(f, scale),
  }));
});
</script>

<template>
  <svg
    v-if="thumb"
    :viewBox="`${thumb.x} ${thumb.y} ${thumb.width} ${thumb.height}`"
    role="img"
    :aria-label="`Picture ${line.picture.name}`"
  >
    <image
      :href="thumb.url"
      :x="thumb.x"
      :y="thumb.y"
      :width="thumb.width"
      :height="thumb.height"
      preserveAspectRatio="none"
    />
    <g fill="none">
      <circle
        v-if="face"
        class="edge"
        :cx="face.centrePx[0]"
        :cy="face.centrePx[1]"
        :r="face.claddingDiameterPx / 2"
        :stroke-width="stroke"
      />
      <path
        v-for="m in marks"
        :key="m.number"
        :d="m.path"
        class="mark"
        :stroke-width="stroke * (m.decides ? 2 : 1.2)"
      />
      <template v-for="f in fibers" :key="f.fiber">
        <circle
          v-if="f.face.ok && f.face.grade.verdict === 'fail'"
          class="mark"
          :cx="f.centrePx[0]"
          :cy="f.centrePx[1]"
          :r="f.face.claddingDiameterPx * 0.75"
          :stroke-width="stroke * 2"
        />
      </template>
    </g>
  </svg>
  <span v-else class="none small soft">{{ line.state === 'waiting' ? 'measuring' : 'no picture' }}</span>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 220px;
  background: #000;
}
.edge {
  stroke: #fff;
  opacity: 0.55;
  stroke-dasharray: 4 6;
}
.mark {
  stroke: #ffd84d;
}
.none {
  display: grid;
  place-items: center;
  min-height: 90px;
  border: 1px dashed var(--hair-strong);
}
</style>
