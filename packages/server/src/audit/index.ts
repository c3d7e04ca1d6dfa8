export { auditRoutes } from './audit.routes.ts';
export { type Done, record } from './audit.store.ts';
