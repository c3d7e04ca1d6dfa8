export { methodRoutes } from './methods.routes.ts';
export { packsService, packText } from './packs.service.ts';
export {
  forgetVersions,
  methodVersion,
  sheetDigest,
  sheetOfAttempt,
  syncShippedMethods,
} from './methods.store.ts';
