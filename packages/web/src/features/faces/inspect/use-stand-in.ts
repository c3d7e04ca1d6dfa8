import { onScopeDispose } from 'vue';
import { standInClient } from '../engine/face-client.ts';
import type { StandInOrder, StandInPicture } from '../engine/face-orders.ts';

/** Frames a second of the live picture; each has its own noise. */
const FRAMES = 4;

/** The stand-in of the microscope: pictures of made faces, drawn in a worker, alone or as a camera's stream. */
export function useStandIn(): {
  take: (order: StandInOrder) => Promise<StandInPicture>;
  stream: (order: StandInOrder) => Promise<MediaStream>;
} {
  const worker = standInClient();
  const waiting = new Set<(error: Error) => void>();
  const clocks = new Set<ReturnType<typeof setInterval>>();
  function take(order: StandInOrder): Promise<StandInPicture> {
    return new Promise<StandInPicture>((resolve, reject) => {
      waiting.add(reject);
      const done = (): boolean => waiting.delete(reject);
      worker.ask(
        order,
        (picture) => {
          done();
          resolve(picture);
        },
        (words) => {
          done();
          reject(new Error(`The simulated microscope stopped: ${words}`));
        },
      );
    });
  }

  /** Ends when its track is stopped, as a camera's does. */
  async function stream(order: StandInOrder): Promise<MediaStream> {
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
    worker.end();
    for (const reject of waiting) reject(new Error('The page was left.'));
  });
  return { take, stream };
}
