/** A level at an instant: dBm or dB, and milliseconds of any clock. */
export interface LevelAt {
  readonly level: number;
  readonly atMs: number;
}

/** How long a level has to stand, in ms, and how far it may wander meanwhile, in dB. House. */
export const STEADY = { forMs: 1500, withinDb: 0.03, least: 4 };

/**
 * Whether a reading has settled: over the last one and a half seconds at least four readings, and none further from
 * another than 0.03 dB. Newest last. Source: let a reading settle before it is saved, common practice; figures house.
 * Example: 0.75, 0.61, 0.49 within a second is settling.
 */
export function isSteady(levels: readonly LevelAt[]): boolean {
  const newest = levels[levels.length - 1];
  if (!newest) return false;
  const recent = levels.filter((l) => newest.atMs - l.atMs <= STEADY.forMs);
  const before = levels.length > recent.length || newest.atMs - levels[0]!.atMs >= STEADY.forMs;
  if (recent.length < STEADY.least || !before) return false;
  const values = recent.map((l) => l.level);
  return Math.max(...values) - Math.min(...values) <= STEADY.withinDb + 1e-9;
}
