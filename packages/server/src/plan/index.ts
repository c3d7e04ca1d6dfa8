export { planRoutes } from './plan.routes.ts';
