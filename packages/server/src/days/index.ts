export { dayRoutes } from './days.routes.ts';
