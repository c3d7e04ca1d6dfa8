import { useIntervalFn } from '@vueuse/core';
import { onUnmounted, ref, shallowRef } from 'vue';
import { cameraWords, NO_SECURE_PAGE } from '../../shared/camera-words.ts';

/** So often a frame is looked at. */
const LOOK_EVERY_MS = 400;
const WANTED = { facingMode: 'environment', width: { ideal: 1280 }, height: { ideal: 960 } };

/** A camera whose frames are handed over one by one, each when the one before was looked at. */
export function useLivePicture(look: (frame: Blob) => Promise<void>) {
  const video = ref<HTMLVideoElement | null>(null);
  const stream = shallowRef<MediaStream | null>(null);
  const failure = ref<string | null>(null);
  let busy = false;

  async function open(): Promise<void> {
    close();
    failure.value = null;
    if (!navigator.mediaDevices) {
      failure.value = NO_SECURE_PAGE;
      return;
    }
    try {
      const opened = await navigator.mediaDevices.getUserMedia({ video: WANTED, audio: false });
      stream.value = opened;
      for (const track of opened.getVideoTracks()) track.onended = lost;
      if (video.value) video.value.srcObject = opened;
      frames.resume();
    } catch (error) {
      failure.value = cameraWords(error);
    }
  }
  function lost(): void {
    close();
    failure.value = 'The camera was unplugged. No picture was taken.';
  }
  function close(): void {
    frames.pause();
    for (const track of stream.value?.getTracks() ?? []) {
      track.onended = null;
      track.stop();
    }
    stream.value = null;
  }
  async function grab(): Promise<void> {
    const from = video.value;
    if (!from || from.videoWidth === 0 || busy) return;
    busy = true;
    try {
      const canvas = new OffscreenCanvas(from.videoWidth, from.videoHeight);
      canvas.getContext('2d')!.drawImage(from, 0, 0);
      const frame = await canvas.convertToBlob({ type: 'image/png' });
      if (stream.value) await look(frame);
    } catch {
      failure.value = 'The camera gave no picture. Try again.';
    } finally {
      busy = false;
    }
  }
  const frames = useIntervalFn(grab, LOOK_EVERY_MS, { immediate: false });
  onUnmounted(close);
  return { video, stream, failure, open, close };
}
