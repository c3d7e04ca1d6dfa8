export { openApiRoutes } from './open-api.routes.ts';
