export { attemptRoutes } from './attempts.routes.ts';
export { attemptsStore } from './attempts.store.ts';
export { revisionHash } from './revision-hash.ts';
export { entriesStore } from './entries.store.ts';
export { requireSight } from './attempts.service.ts';
export { signWithin } from './sign.service.ts';
