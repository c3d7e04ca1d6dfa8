<script setup lang="ts">
import { ref } from 'vue';

/** A picture with what was found in it drawn over it; what is drawn may be held and dragged. */
defineProps<{ shot: { readonly url: string; readonly width: number; readonly height: number } }>();
const emit = defineEmits<{ drag: [to: { x: number; y: number }]; release: [] }>();
const svg = ref<SVGSVGElement | null>(null);
const isHeld = ref(false);

function hold(event: PointerEvent): void {
  event.preventDefault();
  isHeld.value = true;
  (event.target as Element).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (!isHeld.value || !svg.value) return;
  const box = svg.value.getBoundingClientRect();
  const { width, height } = svg.value.viewBox.baseVal;
  emit('drag', {
    x: ((event.clientX - box.left) / box.width) * width,
    y: ((event.clientY - box.top) / box.height) * height,
  });
}
function letGo(): void {
  if (isHeld.value) emit('release');
  isHeld.value = false;
}
</script>

<template>
  <div
    class="shot"
    :style="{
      aspectRatio: `${shot.width} / ${shot.height}`,
      // As high as the dialog has room for, and never out of its proportions: what is drawn lies on it.
      width: `min(100%, ${(50 * shot.width) / shot.height}vh)`,
    }"
  >
    <img :src="shot.url" alt="The picture that was measured" draggable="false" />
    <svg
      ref="svg"
      preserveAspectRatio="none"
      :viewBox="`0 0 ${shot.width} ${shot.height}`"
      role="group"
      aria-label="What was found in the picture"
      @pointermove="move"
      @pointerup="letGo"
      @pointercancel="letGo"
    >
      <slot :hold="hold" />
    </svg>
  </div>
</template>

<style scoped>
.shot {
  position: relative;
  margin: 0 auto;
  background: #000;
}
img,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: fill;
}
svg {
  touch-action: none;
  /* Seen on light and on dark. */
  filter: drop-shadow(0 0 1px #000);
}
svg :deep(:is(line, polyline, polygon, circle)) {
  vector-effect: non-scaling-stroke;
  fill: none;
  stroke: var(--stroke, #fff);
  stroke-width: var(--stroke-width, 1.5px);
}
svg :deep(.handle) {
  fill: rgb(255 210 74 / 25%);
  stroke: #ffd24a;
  stroke-width: 2px;
  cursor: grab;
}
</style>
