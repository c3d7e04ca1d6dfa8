export { methodRoutes } from './methods.routes.ts';
export { methodVersion, sheetDigest, syncShippedMethods } from './methods.store.ts';
