import type { TodayTile } from '@clear-mark/contract';
import type { LiveAttempt } from '../../storage/live-outcomes.ts';

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

/** How long ago, in the fewest words. `now` and `since` in ms. */
export function agoWords(since: number, now: number): string {
  const minutes = Math.max(0, Math.floor((now - since) / 60_000));
  if (minutes < 1) return 'just now';
  if (minutes < 90) return `${minutes} min`;
  return minutes < 48 * 60 ? `${Math.round(minutes / 60)} h` : `${Math.round(minutes / 1440)} days`;
}

/** Who is at work, who calls, who idles: the line above the benches. */
export function classWords(benches: readonly Bench[]): string {
  const working = benches.filter((b) => b.open.length > 0).length;
  const calls = benches.filter((b) => b.open.some((a) => a.hand)).length;
  const parts = [`${working} of ${benches.length} at work`];
  if (calls > 0) parts.push(calls === 1 ? '1 bench calls' : `${calls} benches call`);
  return parts.join(' · ');
}
