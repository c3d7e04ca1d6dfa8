import type { MeasuredFace } from '@clear-mark/core';
import { onScopeDispose, ref, shallowRef } from 'vue';
import type { FaceAnswer, FaceOrder } from './face-worker.ts';

/** The largest picture that is taken, in pixels: what a video microscope gives is far below. */
const MOST_PIXELS = 40_000_000;
/** First bytes of the formats that are taken. */
const isPicture = (head: Uint8Array): boolean =>
  (head[0] === 0x89 && head[1] === 0x50 && head[2] === 0x4e && head[3] === 0x47) ||
  (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff);

export interface ShownFace {
  readonly name: string;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly grey: Uint8Array;
}

/** A picture of an end face on this page, measured in a worker; a newer one, or cancelling, ends the work on it. */
export function useFace() {
  const face = shallowRef<ShownFace | null>(null);
  const found = shallowRef<MeasuredFace | null>(null);
  const failure = ref<string | null>(null);
  const busy = ref(false);
  let worker: Worker | null = null;

  async function take(file: Blob, name: string, criteria: string): Promise<void> {
    cancel();
    failure.value = null;
    try {
      const shown = await decode(file, name);
      if (face.value) URL.revokeObjectURL(face.value.url);
      face.value = shown;
      measure(criteria);
    } catch (error) {
      failure.value = (error as Error).message;
    }
  }

  function measure(criteria: string): void {
    if (!face.value) return;
    cancel();
    found.value = null;
    busy.value = true;
    worker = new Worker(new URL('./face-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FaceAnswer>) => {
      cancel();
      if ('found' in data) found.value = data.found;
      else failure.value = 'The picture could not be measured.';
    };
    worker.onerror = () => {
      cancel();
      failure.value = 'The picture could not be measured.';
    };
    const { width, height, grey } = face.value;
    worker.postMessage({ width, height, data: grey, criteria } satisfies FaceOrder);
  }
  function cancel(): void {
    worker?.terminate();
    worker = null;
    busy.value = false;
  }
  onScopeDispose(() => {
    cancel();
    if (face.value) URL.revokeObjectURL(face.value.url);
  });
  return { face, found, failure, busy, take, measure, cancel };
}

async function decode(file: Blob, name: string): Promise<ShownFace> {
  const head = new Uint8Array(await file.slice(0, 8).arrayBuffer());
  if (!isPicture(head)) throw new Error(`${name} is neither a PNG nor a JPEG picture.`);
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file);
  } catch {
    throw new Error(`${name} cannot be read: it is broken or cut short.`);
  }
  const { width, height } = bitmap;
  if (width * height > MOST_PIXELS) throw new Error(`${name} has more pixels than are taken here.`);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  const grey = new Uint8Array(width * height);
  // Luma of ITU-R BT.601, as greyscale conversion of pictures usually is.
  for (let i = 0; i < grey.length; i++) {
    grey[i] = Math.round(0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!);
  }
  return { name, url: URL.createObjectURL(file), width, height, grey };
}
