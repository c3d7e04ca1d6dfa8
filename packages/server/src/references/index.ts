export { referenceRoutes } from './references.routes.ts';
export { referencesStore } from './references.store.ts';
