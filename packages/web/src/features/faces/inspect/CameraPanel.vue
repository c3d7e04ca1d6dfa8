<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, shallowRef } from 'vue';
import { useStandIn } from './use-stand-in.ts';
import { cameraWords, NO_SECURE_PAGE } from '../../../shared/camera-words.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** A video microscope that the browser knows as a camera: seen live, one picture taken at a tap. */
const emit = defineEmits<{ taken: [picture: Blob]; close: [] }>();
const video = ref<HTMLVideoElement | null>(null);
const stream = shallowRef<MediaStream | null>(null);
const devices = shallowRef<readonly MediaDeviceInfo[]>([]);
const deviceId = ref('');
const failure = ref<string | null>(null);
const busy = ref(false);
const standIn = useStandIn();
const SIMULATED = 'simulated';
const cameras = computed(() => [
  ...(devices.value.length === 0 ? [{ value: '', label: 'Video microscope' }] : []),
  ...devices.value.map((d, i) => ({ value: d.deviceId, label: d.label || `Camera ${i + 1}` })),
  { value: SIMULATED, label: 'Simulated scope' },
]);
const live = computed(() => stream.value !== null);
const WIDTH = 1280;

async function open(): Promise<void> {
  close();
  failure.value = null;
  if (!navigator.mediaDevices && deviceId.value !== SIMULATED) {
    failure.value = NO_SECURE_PAGE;
    return;
  }
  if (deviceId.value === SIMULATED) return simulated();
  try {
    const wanted = deviceId.value === '' ? {} : { deviceId: { exact: deviceId.value } };
    const opened = await navigator.mediaDevices.getUserMedia({
      video: { ...wanted, width: { ideal: WIDTH }, height: { ideal: 960 } },
      audio: false,
    });
    show(opened);
    devices.value = (await navigator.mediaDevices.enumerateDevices()).filter((d) => d.kind === 'videoinput');
    deviceId.value = opened.getVideoTracks()[0]?.getSettings().deviceId ?? deviceId.value;
  } catch (error) {
    failure.value = cameraWords(error);
  }
}
/** The simulated microscope seen live, through the same doorway as a camera. */
async function simulated(): Promise<void> {
  const seed = Math.floor(Math.random() * 1e6);
  show(await standIn.stream({ seed, state: 'mixed', loose: 1, shot: 0, kind: 'single_mode', height: 480 }));
}
function show(opened: MediaStream): void {
  stream.value = opened;
  for (const track of opened.getVideoTracks()) track.addEventListener('ended', lost);
  if (video.value) video.value.srcObject = opened;
}
function lost(): void {
  close();
  failure.value = 'The camera was unplugged. No picture was taken.';
}
function close(): void {
  for (const track of stream.value?.getTracks() ?? []) {
    track.removeEventListener('ended', lost);
    track.stop();
  }
  stream.value = null;
}

/** The frame as it is, without loss. */
async function take(): Promise<void> {
  const from = video.value;
  if (!from || !live.value || busy.value) return;
  busy.value = true;
  try {
    const width = from.videoWidth;
    const height = from.videoHeight;
    if (width === 0) throw new Error('no frame yet');
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.drawImage(from, 0, 0);
    const picture = await canvas.convertToBlob({ type: 'image/png' });
    // Unplugged meanwhile: what was grabbed may be half a frame.
    if (live.value) emit('taken', picture);
  } catch {
    failure.value = 'The camera gave no picture. Try again.';
  } finally {
    busy.value = false;
  }
}
onMounted(open);
onUnmounted(close);
</script>

<template>
  <section class="camera" aria-label="Camera">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <video v-show="live" ref="video" autoplay muted playsinline />
    <div class="row">
      <el-button size="large" type="primary" :disabled="!live || busy" @click="take"
        >Take the picture</el-button
      >
      <ChoiceField v-model="deviceId" inline label="Camera" :options="cameras" @change="open" />
      <el-button v-if="!live" size="large" @click="open">Try again</el-button>
      <el-button size="large" text @click="emit('close')">Close the camera</el-button>
    </div>
  </section>
</template>

<style scoped>
video {
  width: 100%;
  max-height: 460px;
  background: #000;
  display: block;
  margin-bottom: 8px;
}
</style>
