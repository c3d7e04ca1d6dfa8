export { callRoutes } from './calls.routes.ts';
