export { traceRoutes } from './traces.routes.ts';
