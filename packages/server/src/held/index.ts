export { heldRoutes } from './held.routes.ts';
