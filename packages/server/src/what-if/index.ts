/** What scores again, in a thread. */
export const WHAT_IF_WORKER = new URL('./job-worker.ts', import.meta.url);
export { whatIfRoutes } from './what-if.routes.ts';
export { WHAT_IF, whatIfHandlers, whatIfService } from './what-if.service.ts';
