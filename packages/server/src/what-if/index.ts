export { jobThreads } from './job-thread.ts';
export { whatIfRoutes } from './what-if.routes.ts';
export { WHAT_IF, whatIfHandlers, whatIfService } from './what-if.service.ts';
