export { resultRoutes } from './results.routes.ts';
export { resultsService } from './results.service.ts';
export { filterCondition } from './filter.ts';
export { dayIn } from './evidence.ts';
export { JUDGED_MARKS } from './results.store.ts';
export { classStandings } from './standings.ts';
