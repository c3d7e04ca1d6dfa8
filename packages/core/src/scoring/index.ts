export * from './entry-value.ts';
export { compileBand, judgeBand } from './judge-band.ts';
export { lossDbOf, lossSlip } from './judge-loss.ts';
export { CHARGE_PART, dismissPart, resolveEntries, type ResolvedSlot, slotKey } from './resolve-entries.ts';
export * from './score.ts';
export * from './types.ts';
