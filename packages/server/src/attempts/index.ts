export { attemptRoutes } from './attempts.routes.ts';
export { localDay } from './board.service.ts';
export { attemptsStore } from './attempts.store.ts';
export { type HashedRecord, revisionHash } from './revision-hash.ts';
export { outcomeRows, WHOLE } from './sign.store.ts';
export { entriesStore } from './entries.store.ts';
export { signWithin } from './sign.service.ts';
