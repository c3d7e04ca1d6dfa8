export { resultRoutes } from './results.routes.ts';
export { resultsService } from './results.service.ts';
