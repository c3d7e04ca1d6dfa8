import { onScopeDispose } from 'vue';
import type { StandInOrder, StandInPicture } from './face-orders.ts';

type Wanted = Omit<StandInOrder, 'id'>;
/** Frames a second of the live picture; each has its own noise. */
const FRAMES = 4;

/** The stand-in of the microscope: pictures of made faces, drawn in a worker, alone or as a camera's stream. */
export function useStandIn(): {
  take: (order: Wanted) => Promise<StandInPicture>;
  stream: (order: Wanted) => Promise<MediaStream>;
} {
  let worker: Worker | null = null;
  let next = 0;
  const waiting = new Map<number, (picture: StandInPicture) => void>();
  const clocks = new Set<ReturnType<typeof setInterval>>();
  function started(): Worker {
    if (worker) return worker;
    worker = new Worker(new URL('./stand-in-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StandInPicture>) => {
      waiting.get(data.id)?.(data);
      waiting.delete(data.id);
    };
    return worker;
  }
  const take = (order: Wanted): Promise<StandInPicture> =>
    new Promise((resolve) => {
      const id = next++;
      waiting.set(id, resolve);
      started().postMessage({ ...order, id } satisfies StandInOrder);
    });

  /** Ends when its track is stopped, as a camera's does. */
  async function stream(order: Wanted): Promise<MediaStream> {
    const first = await take(order);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [first.width, first.height];
    const context = canvas.getContext('2d')!;
    const draw = async ({ png }: StandInPicture): Promise<void> => {
      const frame = await createImageBitmap(png);
      context.drawImage(frame, 0, 0);
      frame.close();
    };
    await draw(first);
    const live = canvas.captureStream(FRAMES);
    let [shot, busy] = [order.shot, false];
    const clock = setInterval(() => {
      if (live.getVideoTracks().every((t) => t.readyState === 'ended')) return end();
      if (busy) return;
      busy = true;
      void take({ ...order, shot: ++shot })
        .then(draw)
        .finally(() => (busy = false));
    }, 1000 / FRAMES);
    const end = (): void => {
      clearInterval(clock);
      clocks.delete(clock);
    };
    clocks.add(clock);
    return live;
  }
  onScopeDispose(() => {
    for (const clock of clocks) clearInterval(clock);
    worker?.terminate();
  });
  return { take, stream };
}
