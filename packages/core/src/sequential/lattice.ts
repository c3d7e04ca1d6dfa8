/**
 * The exact chain behind every sequential chart: a sum that falls by one weight at a pass and rises by another at a failure.
 * After n pieces of which i failed it can only be i x up - (n - i) x down, so that a layer of the chain holds as many
 * states as failures fit between the bounds; nothing is rounded to a grid.
 */
export interface Walk {
  /** Added at a failure; taken off at a pass. Both above 0. */
  readonly up: number;
  readonly down: number;
  /** The walk ends at or above `high`, at or under `low`. */
  readonly high: number;
  readonly low: number;
  /** Chance of a failure. */
  readonly p: number;
}

/** Where one walk from 0 ends, by its number of pieces (from 1), until less than `LEFT` is still under way. */
export interface Ends {
  readonly high: Float64Array;
  readonly low: Float64Array;
  /** Chance of ending high and low, expected pieces until either. */
  readonly reachesHigh: number;
  readonly reachesLow: number;
  readonly pieces: number;
}

const LEFT = 1e-16;
const MOST_PIECES = 2_000_000;

export function endsOf(walk: Walk, mostPieces = MOST_PIECES): Ends {
  const { up, down, high, low, p } = walk;
  const highs: number[] = [];
  const lows: number[] = [];
  // The state with i failures of n pieces lies at `first + k`: only those between the bounds are kept.
  let first = 0;
  let mass: number[] = [1];
  let left = 1;
  let pieces = 0;
  let reachesHigh = 0;
  let reachesLow = 0;
  // What an end counts as reached may miss its bound by rounding alone.
  const dust = 1e-12 * (high - low);
  for (let n = 1; left > LEFT && n <= mostPieces; n++) {
    pieces += left;
    const next = new Array<number>(mass.length + 1).fill(0);
    for (let k = 0; k < mass.length; k++) {
      next[k]! += mass[k]! * (1 - p);
      next[k + 1]! += mass[k]! * p;
    }
    let ended = 0;
    let fell = 0;
    let from = 0;
    let to = next.length;
    const sumAt = (k: number): number => (first + k) * up - (n - first - k) * down;
    while (to > from && sumAt(to - 1) >= high - dust) ended += next[--to]!;
    while (from < to && sumAt(from) <= low + dust) fell += next[from++]!;
    highs.push(ended);
    lows.push(fell);
    reachesHigh += ended;
    reachesLow += fell;
    mass = next.slice(from, to);
    first += from;
    left = mass.reduce((a, b) => a + b, 0);
    if (mass.length === 0) break;
  }
  return {
    high: Float64Array.from(highs),
    low: Float64Array.from(lows),
    reachesHigh,
    reachesLow,
    pieces,
  };
}
