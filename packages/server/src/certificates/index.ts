export { certificatesStore } from './certificates.store.ts';
export { certificateRoutes } from './certificates.routes.ts';
