export { stockRoutes } from './stock.routes.ts';
export { takeStock } from './stock.service.ts';
export { stockStore } from './stock.store.ts';
