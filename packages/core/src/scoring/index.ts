export * from './cord-check.ts';
export * from './entry-value.ts';
export * from './guarded-verdict.ts';
export { compileBand, judgeBand } from './judge-band.ts';
export { lossDbOf, lossSlip } from './judge-loss.ts';
export * from './at-the-bench.ts';
export {
  CHARGE_PART,
  dismissPart,
  HAND_PART,
  resolveEntries,
  type ResolvedSlot,
  slotKey,
  STOP_PART,
  TIMER_PART,
} from './resolve-entries.ts';
export * from './judge-link-test.ts';
export * from './reference-drift.ts';
export * from './score.ts';
export * from './types.ts';
export { mapReasons } from './judge-map.ts';
export { standingIds } from './standing-ids.ts';
