export { type Metrics, metricsOf } from './metrics.ts';
export { metricsRoutes } from './metrics.routes.ts';
