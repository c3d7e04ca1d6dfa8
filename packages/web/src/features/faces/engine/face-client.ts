import { type WorkerClient, workerClient } from '../../../workers/worker-client.ts';
import type { ScopeFace } from '@clear-mark/sim';
import type {
  CallFacesOrder,
  FaceNews,
  FaceOrder,
  SlideNews,
  SlideOrder,
  StandInOrder,
  StandInPicture,
} from './face-orders.ts';

/** The worker that measures pictures of end faces. */
export const faceClient = (): WorkerClient<FaceOrder, FaceNews> =>
  workerClient(() => new Worker(new URL('./face-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that draws what the simulated microscope sees. */
export const standInClient = (): WorkerClient<StandInOrder, StandInPicture> =>
  workerClient(() => new Worker(new URL('./stand-in-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that chooses what a series of blind calls shows. */
export const callFacesClient = (): WorkerClient<CallFacesOrder, readonly ScopeFace[]> =>
  workerClient(() => new Worker(new URL('./call-faces-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that takes the scale from a picture of a calibration slide. */
export const slideClient = (): WorkerClient<SlideOrder, SlideNews> =>
  workerClient(() => new Worker(new URL('./slide-worker.ts', import.meta.url), { type: 'module' }));
