export { stockRoutes } from './stock.routes.ts';
export { takeStock } from './stock.service.ts';
