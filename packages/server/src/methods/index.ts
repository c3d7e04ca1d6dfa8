export { methodRoutes } from './methods.routes.ts';
export { packsService, packText } from './packs.service.ts';
export { methodVersion, sheetDigest, sheetOfAttempt, syncShippedMethods } from './methods.store.ts';
