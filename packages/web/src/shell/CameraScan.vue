<script setup lang="ts">
import { useIntervalFn, useUserMedia } from '@vueuse/core';
import { onMounted, ref, watch } from 'vue';
import { cameraWords, NO_SECURE_PAGE } from '../shared/camera-words.ts';
import { codeIn } from './read-code.ts';
import { useScanPlace } from './use-scan-place.ts';

/** A label is held before the camera of the tablet: what it names is opened. */
const emit = defineEmits<{ opened: [] }>();
const LOOK_EVERY_MS = 200;
/** Wide enough for a label at arm's length, small enough to be looked through between two frames. */
const WIDTH = 640;
const video = ref<HTMLVideoElement | null>(null);
const failure = ref<string | null>(null);
const unknown = ref<string | null>(null);
const openPlace = useScanPlace();
const { stream, start, isSupported } = useUserMedia({
  constraints: { video: { facingMode: 'environment', width: { ideal: WIDTH } }, audio: false },
});
watch([stream, video], ([now, shown]) => {
  if (shown) shown.srcObject = now ?? null;
});
let canvas: OffscreenCanvas | null = null;
let busy = false;

async function look(): Promise<void> {
  const from = video.value;
  if (!from || from.videoWidth === 0 || busy) return;
  busy = true;
  try {
    const height = Math.round((WIDTH * from.videoHeight) / from.videoWidth);
    canvas ??= new OffscreenCanvas(WIDTH, height);
    const pen = canvas.getContext('2d', { willReadFrequently: true })!;
    pen.drawImage(from, 0, 0, WIDTH, height);
    const text = await codeIn(pen.getImageData(0, 0, WIDTH, height));
    if (text === null) return;
    if (openPlace(text)) emit('opened');
    else unknown.value = text;
  } catch {
    failure.value = 'The reader of labels could not be loaded. Try again when the server is reached.';
  } finally {
    busy = false;
  }
}
useIntervalFn(look, LOOK_EVERY_MS);

async function open(): Promise<void> {
  failure.value = isSupported.value ? null : NO_SECURE_PAGE;
  if (!isSupported.value) return;
  try {
    await start();
  } catch (error) {
    failure.value = cameraWords(error);
  }
}
onMounted(open);
</script>

<template>
  <section aria-label="Scan with the camera">
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }} <el-button size="large" @click="open">Try again</el-button>
    </p>
    <video v-show="stream" ref="video" autoplay muted playsinline />
    <p class="soft" role="status">
      <template v-if="unknown"
        >Nothing of this class has that label. Hold another one before the camera.</template
      >
      <template v-else-if="stream">Hold a label before the camera.</template>
    </p>
  </section>
</template>

<style scoped>
video {
  width: 100%;
  max-height: 50vh;
  background: #000;
  display: block;
  margin: 8px 0;
}
</style>
