export { certificateRoutes } from './certificates.routes.ts';
