import type { TodayTile } from '@clear-mark/contract';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';

export interface Bench {
  readonly tile: TodayTile;
  /** Every piece open at this bench, the newest first. */
  readonly open: readonly LiveAttempt[];
}

/** A bench for every trainee, in the class's order: nothing moves while pieces begin and end. */
export function benchesOf(tiles: readonly TodayTile[], attempts: readonly LiveAttempt[]): Bench[] {
  return tiles.map((tile) => ({
    tile,
    open: attempts.filter((a) => a.attempt.traineeId === tile.traineeId),
  }));
}

/** Who is at work, who calls, who idles: the line above the benches. */
export function classWords(benches: readonly Bench[]): string {
  const working = benches.filter((b) => b.open.length > 0).length;
  const calls = benches.filter((b) => b.open.some((a) => a.hand)).length;
  const parts = [`${working} of ${benches.length} at work`];
  if (calls > 0) parts.push(calls === 1 ? '1 bench calls' : `${calls} benches call`);
  return parts.join(' · ');
}
