<script setup lang="ts">
import { ref, watch } from 'vue';

/** A picture that the server keeps; where it cannot be had, that is said in its place. */
const props = defineProps<{
  src: string;
  alt: string;
  width?: number | undefined;
  height?: number | undefined;
  lazy?: boolean | undefined;
}>();
const emit = defineEmits<{ load: []; lost: [] }>();
/** Less wide than this there is no room for words. */
const LEAST_WORDS_PX = 100;

const lost = ref(false);
watch(
  () => props.src,
  () => (lost.value = false),
);
function lose(): void {
  lost.value = true;
  emit('lost');
}
const px = (n: number | undefined): string => (n === undefined ? 'auto' : `${n}px`);
</script>

<template>
  <img
    v-if="!lost"
    :src="src"
    :alt="alt"
    :width="width"
    :height="height"
    :loading="lazy ? 'lazy' : 'eager'"
    draggable="false"
    @load="emit('load')"
    @error="lose"
  />
  <span
    v-else
    class="lost small soft"
    role="img"
    :aria-label="`${alt === '' ? 'Picture' : alt}: not within reach`"
    :style="{ width: px(width), height: px(height) }"
    >{{ width === undefined || width >= LEAST_WORDS_PX ? 'The picture is not within reach now.' : '' }}</span
  >
</template>

<style scoped>
.lost {
  display: grid;
  place-items: center;
  min-height: 34px;
  padding: 4px;
  border: 1px dashed var(--hair);
  text-align: center;
  line-height: 1.3;
}
</style>
