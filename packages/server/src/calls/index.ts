export { callRoutes } from './calls.routes.ts';
export { callsStore } from './calls.store.ts';
