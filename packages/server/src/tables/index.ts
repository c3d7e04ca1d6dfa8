export { tableRoutes } from './tables.routes.ts';
export { schoolDrills } from './tables.service.ts';
export { tablesStore } from './tables.store.ts';
