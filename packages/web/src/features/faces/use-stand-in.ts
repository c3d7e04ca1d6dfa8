import { onScopeDispose } from 'vue';
import type { StandInOrder, StandInPicture } from './face-orders.ts';

interface Asked {
  readonly resolve: (picture: StandInPicture) => void;
  readonly reject: (error: Error) => void;
}
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
  const waiting = new Map<number, Asked>();
  const clocks = new Set<ReturnType<typeof setInterval>>();
  function started(): Worker {
    if (worker) return worker;
    worker = new Worker(new URL('./stand-in-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StandInPicture>) => {
      waiting.get(data.id)?.resolve(data);
      waiting.delete(data.id);
    };
    worker.onerror = ({ message }) => ended(`The simulated microscope stopped: ${message}`);
    return worker;
  }
  /** Whoever waits is told; the next order begins a worker anew. */
  function ended(words: string): void {
    worker?.terminate();
    worker = null;
    for (const { reject } of waiting.values()) reject(new Error(words));
    waiting.clear();
  }
  function take(order: Wanted): Promise<StandInPicture> {
    const id = next++;
    const asked = new Promise<StandInPicture>((resolve, reject) => waiting.set(id, { resolve, reject }));
    started().postMessage({ ...order, id } satisfies StandInOrder);
    return asked;
  }

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
    let shot = order.shot;
    let busy = false;
    const clock = setInterval(() => {
      if (live.getVideoTracks().every((t) => t.readyState === 'ended')) return end();
      if (busy) return;
      busy = true;
      void take({ ...order, shot: ++shot })
        .then(draw)
        // A stand-in that stopped is a camera that was unplugged.
        .catch(() => {
          for (const track of live.getVideoTracks()) track.stop();
          end();
        })
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
    ended('The page was left.');
  });
  return { take, stream };
}
