import { useIntervalFn } from '@vueuse/core';
import { onUnmounted, ref, shallowRef } from 'vue';
import { cameraWords, NO_SECURE_PAGE } from '../../shared/camera-words.ts';

/** So often a frame is looked at. */
const LOOK_EVERY_MS = 400;
/** What a camera is asked for, pixels; it gives what it can. */
export interface WantedPicture {
  readonly width: number;
  readonly height: number;
}
/** A fiber from the side fills a small picture. */
export const SMALL: WantedPicture = { width: 1280, height: 960 };
/** A whole card wants as many pixels as a camera gives while it is live. */
export const LARGE: WantedPicture = { width: 3840, height: 2880 };
/** A picture of more pixels is packed as a photograph: losslessly it would be too large to be kept. */
const MOST_LOSSLESS = 1280 * 960;
const QUALITY = 0.95;

/** A camera whose frames are handed over one by one, each when the one before was looked at. */
export function useLivePicture(look: (frame: Blob) => Promise<void>, { width, height }: WantedPicture) {
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
      const opened = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: width }, height: { ideal: height } },
        audio: false,
      });
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
      const isLarge = canvas.width * canvas.height > MOST_LOSSLESS;
      const frame = await canvas.convertToBlob(
        isLarge ? { type: 'image/jpeg', quality: QUALITY } : { type: 'image/png' },
      );
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
