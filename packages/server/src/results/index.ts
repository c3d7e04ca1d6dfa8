export { resultRoutes } from './results.routes.ts';
export { attemptListService } from './lists/attempt-list.ts';
export { resultsOf } from './results.service.ts';
export { filterCondition } from './filter.ts';
export { lossesOf } from './losses/loss-samples.ts';
export { lossSeries } from './losses/loss-series.ts';
export { lossesStore } from './losses/losses.store.ts';
export { classStandings } from './standings/standings.ts';
