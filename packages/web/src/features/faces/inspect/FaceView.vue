<script setup lang="ts">
import type { FaceCriteria, GradedFace } from '@clear-mark/core';
import { computed, ref, watch } from 'vue';
import { useZoom } from '../../../shared/use-zoom.ts';
import type { FlatImage } from '../engine/face-orders.ts';
import { labelAt, pathOf } from './face-marks.model.ts';
import type { Tool } from './face-tools.ts';
import type { ShownFeature } from './face-view.model.ts';

/**
 * The picture with its zones and what was found on it. Marks differ by shape and number, not by colour: a defect has four
 * corners round it, a scratch a pair of rails along it; what decides is drawn heavier, what was rejected is crossed.
 */
const props = defineProps<{
  name: string;
  url: string;
  width: number;
  height: number;
  face: GradedFace | null;
  table: FaceCriteria;
  features: readonly ShownFeature[];
  chosen: number | null;
  flat: { readonly picture: FlatImage; readonly url: string } | null;
  tool: Tool;
  loupe: boolean;
  /** Of a calibration slide, for the ruler where no cladding shows. */
  slideUmPerPx?: number | null;
}>();
const emit = defineEmits<{
  choose: [number: number | null];
  between: [from: readonly [number, number], to: readonly [number, number]];
}>();

const svg = ref<SVGSVGElement | null>(null);
const pointer = ref<readonly [number, number] | null>(null);
const first = ref<readonly [number, number] | null>(null);
const measured = ref<{ from: readonly [number, number]; to: readonly [number, number] } | null>(null);
watch(
  () => [props.tool, props.url],
  () => ([first.value, measured.value] = [null, null]),
);

/** The picture is cropped to the contact zone, so that the glass is large on the screen; from there it can be zoomed. */
const whole = computed(() => {
  const { face, width, height } = props;
  if (!face) return { x: 0, y: 0, width, height };
  const reach = Math.min(Math.max(width, height), (165 / face.umPerPx / 2) * 1.02);
  const x = Math.max(0, face.centrePx[0] - reach * 1.25);
  const y = Math.max(0, face.centrePx[1] - reach);
  return { x, y, width: Math.min(width, x + 2.5 * reach) - x, height: Math.min(height, y + 2 * reach) - y };
});
const { at: zoomed, seen, key, reset, closer, further } = useZoom(svg);
const box = computed(() => seen(whole.value));
watch(() => props.url, reset);
defineExpose({ closer, further, reset, zoomed });
const stroke = computed(() => box.value.width / 640);
const px = (um: number): number => (props.face ? um / props.face.umPerPx : 0);
const at = (xUm: number, yUm: number): [number, number] =>
  props.face ? [props.face.centrePx[0] + px(xUm), props.face.centrePx[1] + px(yUm)] : [0, 0];
const um = ([x, y]: readonly [number, number]): [number, number] =>
  props.face
    ? [(x - props.face.centrePx[0]) * props.face.umPerPx, (y - props.face.centrePx[1]) * props.face.umPerPx]
    : [0, 0];

function placeOf(event: MouseEvent): readonly [number, number] | null {
  const matrix = svg.value?.getScreenCTM();
  if (!matrix) return null;
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
  return [point.x, point.y];
}
function tap(event: MouseEvent): void {
  const place = placeOf(event);
  if (!place || (!props.face && props.tool !== 'rule')) return;
  if (props.tool === 'look') return emit('choose', null);
  if (!first.value) {
    first.value = place;
    return;
  }
  const from = first.value;
  first.value = null;
  if (props.tool === 'rule') measured.value = { from, to: place };
  else emit('between', um(from), um(place));
}
const line = computed(() => {
  if (measured.value) return measured.value;
  return first.value && pointer.value ? { from: first.value, to: pointer.value } : null;
});
const ruled = computed(() => {
  const umPerPx = props.face?.umPerPx ?? props.slideUmPerPx ?? null;
  if (!line.value || umPerPx === null) return null;
  const { from, to } = line.value;
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]) * umPerPx;
  return { x: (from[0] + to[0]) / 2, y: (from[1] + to[1]) / 2, words: `${length.toFixed(1)} µm` };
});

const drawn = computed(() => {
  const scale = { px, at, stroke: stroke.value };
  return props.features.map((f) => ({
    f,
    path: pathOf(f, scale),
    label: labelAt(f, scale),
    at: at(f.xUm, f.yUm),
  }));
});

const LOUPE = 4;
/** The loupe looks at what was chosen, or where the pointer is. */
const lens = computed(() => {
  if (!props.loupe) return null;
  const chosen = props.features.find((f) => f.number === props.chosen);
  const centre = pointer.value ?? (chosen ? at(chosen.xUm, chosen.yUm) : null);
  if (!centre) return null;
  const r = box.value.height / 5;
  const away = centre[0] > box.value.x + box.value.width / 2 ? -1 : 1;
  return { x: centre[0], y: centre[1], r, cx: centre[0] + away * r * 1.35, cy: centre[1] };
});
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
    role="img"
    :aria-label="`Picture ${name}`"
    aria-keyshortcuts="+ - 0"
    tabindex="0"
    :class="{ aim: tool !== 'look', zoomed: zoomed.k > 1 }"
    @keydown="key"
    @click="tap"
    @pointermove="pointer = placeOf($event)"
    @pointerleave="pointer = null"
  >
    <defs>
      <clipPath id="frame"><rect :x="box.x" :y="box.y" :width="box.width" :height="box.height" /></clipPath>
      <clipPath v-if="lens" id="lens"><circle :cx="lens.cx" :cy="lens.cy" :r="lens.r" /></clipPath>
    </defs>
    <image :href="url" :width="width" :height="height" />
    <image
      v-if="flat"
      :href="flat.url"
      :x="flat.picture.left"
      :y="flat.picture.top"
      :width="flat.picture.side"
      :height="flat.picture.side"
    />
    <g v-if="face" fill="none" clip-path="url(#frame)">
      <g v-for="z in table.zones" :key="z.zone" class="zone" :stroke-width="stroke">
        <circle class="under" :cx="at(0, 0)[0]" :cy="at(0, 0)[1]" :r="px(z.toUm / 2)" />
        <circle :cx="at(0, 0)[0]" :cy="at(0, 0)[1]" :r="px(z.toUm / 2)" />
        <text
          :x="at((z.toUm / 2) * 0.7071, 0)[0]"
          :y="at(0, (-z.toUm / 2) * 0.7071)[1]"
          :font-size="13 * stroke"
          :dx="-12 * stroke"
          :dy="14 * stroke"
        >
          {{ z.zone }}
        </text>
      </g>
      <g
        v-for="{ f, path, label, at: place } in drawn"
        :key="f.number"
        class="found"
        :class="{ chosen: chosen === f.number, decides: f.decides, rejected: f.rejected }"
        @click.stop="tool === 'look' ? emit('choose', f.number) : tap($event)"
      >
        <path class="under" :d="path" :stroke-width="stroke * (f.decides ? 5 : 4)" />
        <path :d="path" :stroke-width="stroke * (f.decides ? 3 : 1.8)" />
        <circle class="touch" :cx="place[0]" :cy="place[1]" :r="14 * stroke" />
        <text :x="label[0]" :y="label[1]" :font-size="14 * stroke">{{ f.number }}</text>
      </g>
    </g>
    <g v-if="lens" class="lens">
      <circle :cx="lens.cx" :cy="lens.cy" :r="lens.r" fill="#000" />
      <g clip-path="url(#lens)">
        <g :transform="`translate(${lens.cx} ${lens.cy}) scale(${LOUPE}) translate(${-lens.x} ${-lens.y})`">
          <image :href="url" :width="width" :height="height" class="pixels" />
          <image
            v-if="flat"
            :href="flat.url"
            :x="flat.picture.left"
            :y="flat.picture.top"
            :width="flat.picture.side"
            :height="flat.picture.side"
          />
        </g>
      </g>
      <circle :cx="lens.cx" :cy="lens.cy" :r="lens.r" class="rim" :stroke-width="2.5 * stroke" />
      <text :x="lens.cx" :y="lens.cy + lens.r - 6 * stroke" :font-size="13 * stroke" text-anchor="middle">
        4 times
      </text>
    </g>
    <g v-if="line && ruled" class="rule">
      <line
        class="under"
        :x1="line.from[0]"
        :y1="line.from[1]"
        :x2="line.to[0]"
        :y2="line.to[1]"
        :stroke-width="5 * stroke"
      />
      <line
        :x1="line.from[0]"
        :y1="line.from[1]"
        :x2="line.to[0]"
        :y2="line.to[1]"
        :stroke-width="2 * stroke"
      />
      <text :x="ruled.x" :y="ruled.y - 8 * stroke" :font-size="17 * stroke" data-test="ruled">
        {{ ruled.words }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-height: calc(100dvh - 326px);
  display: block;
  background: var(--sunk);
  touch-action: manipulation;
}
svg.zoomed {
  cursor: grab;
  touch-action: none;
}
svg.aim {
  cursor: crosshair;
}
/* White on dark on any picture, by day and by night. */
.under {
  stroke: rgb(0 0 0 / 55%);
}
.zone circle:not(.under) {
  stroke: rgb(255 255 255 / 75%);
  stroke-dasharray: 1 5;
  stroke-linecap: round;
}
.zone circle.under {
  stroke-dasharray: none;
  stroke: rgb(0 0 0 / 25%);
}
text {
  fill: #fff;
  paint-order: stroke;
  stroke: rgb(0 0 0 / 70%);
  stroke-width: 0.25em;
  font-weight: 700;
}
.found {
  cursor: pointer;
  pointer-events: all;
}
.found path:not(.under) {
  stroke: #fff;
}
.found.decides path:not(.under) {
  stroke: #ffd166;
}
.found.decides text {
  fill: #ffd166;
}
.found.rejected path:not(.under) {
  stroke-dasharray: 2 6;
}
.found.chosen path:not(.under) {
  stroke: #9fd8ff;
}
.found.chosen text {
  fill: #9fd8ff;
  font-size: 1.3em;
}
.touch {
  fill: transparent;
}
.rim {
  fill: none;
  stroke: #fff;
}
.pixels {
  image-rendering: pixelated;
}
.rule line:not(.under) {
  stroke: #fff;
}
.lens {
  pointer-events: none;
}
</style>
