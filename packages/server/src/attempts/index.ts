export { attemptRoutes } from './attempts.routes.ts';
export { attemptsStore } from './attempts.store.ts';
export { type ChainedEntry, entriesDigest, revisionHash } from './revision-hash.ts';
export { type Evidence, evidenceStore } from './evidence.store.ts';
export { minutesOf, OUTCOME_TABLES, type OutcomeRows, outcomeRows, signStore } from './sign.store.ts';
export { entriesStore } from './entries.store.ts';
export { requireSight } from './attempts.service.ts';
export { signWithin } from './sign.service.ts';
export { computedAttempt } from './computed-attempt.ts';
