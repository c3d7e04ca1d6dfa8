export {
  type JobHandlers,
  type JobKind,
  type JobQueue,
  prepareJobQueue,
  startJobQueue,
} from './job-queue.ts';
export { jobThreads } from './job-thread.ts';
export { jobProgress } from './progress.store.ts';
