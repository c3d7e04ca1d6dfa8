export { methodRoutes } from './methods.routes.ts';
export { methodVersion, sheetDigest, sheetOfAttempt, syncShippedMethods } from './methods.store.ts';
