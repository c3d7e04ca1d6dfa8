import { onScopeDispose } from 'vue';
import type { StandInOrder, StandInPicture } from './face-orders.ts';

/** The stand-in of the microscope: pictures of made faces, drawn in a worker. */
export function useStandIn(): { take: (order: Omit<StandInOrder, 'id'>) => Promise<StandInPicture> } {
  let worker: Worker | null = null;
  let next = 0;
  const waiting = new Map<number, (picture: StandInPicture) => void>();
  function started(): Worker {
    if (worker) return worker;
    worker = new Worker(new URL('./stand-in-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StandInPicture>) => {
      waiting.get(data.id)?.(data);
      waiting.delete(data.id);
    };
    return worker;
  }
  onScopeDispose(() => worker?.terminate());
  return {
    take: (order) =>
      new Promise((resolve) => {
        const id = next++;
        waiting.set(id, resolve);
        started().postMessage({ ...order, id } satisfies StandInOrder);
      }),
  };
}
