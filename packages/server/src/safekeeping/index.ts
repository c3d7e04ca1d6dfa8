export { keepDailyHeads } from './heads.ts';
export { night, startNightly } from './nightly.ts';
export { rebuildOutcomes } from './rebuild.ts';
export { safekeepingRoutes } from './safekeeping.routes.ts';
export { type Keeping, safekeepingService } from './safekeeping.service.ts';
export { safekeepingStore } from './safekeeping.store.ts';
export { type Anchor, recordHash, type Verified, verifyRecords } from './verify.ts';
export { verifyStore } from './verify.store.ts';
