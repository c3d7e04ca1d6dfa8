export { whatIfRoutes } from './what-if.routes.ts';
export { whatIfService } from './what-if.service.ts';
