export { resultRoutes } from './results.routes.ts';
export { lossesOf, resultsService } from './results.service.ts';
export { lossSeries } from './loss-series.ts';
export { filterCondition } from './filter.ts';
export { JUDGED_MARKS, resultsStore } from './results.store.ts';
export { classStandings } from './standings.ts';
