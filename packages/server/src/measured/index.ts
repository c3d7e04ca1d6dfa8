export { measuredRoutes } from './measured.routes.ts';
