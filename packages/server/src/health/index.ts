export { healthRoutes } from './health.routes.ts';
