/** Lines closer than this many pixels are not told apart. */
const LEAST_PERIOD_PX = 5;
/** How like itself a profile has to be one pitch further on: the correlation, and its share of the greatest one. */
const LEAST_LIKENESS = 0.3;
const SHARE_OF_BEST = 0.55;
/** A line stands out by this share of what the middle one of them does. */
const LEAST_HEIGHT = 0.3;

/** The least lag, px, at which a profile is like itself; null where there is none. */
export function periodOf(profile: Float64Array): number | null {
  const level = flat(profile);
  const most = Math.floor(level.length / 3);
  const likeness = Array.from({ length: most + 2 }, (_, lag) => correlationAt(level, lag));
  const peaks: { lag: number; height: number }[] = [];
  for (let lag = LEAST_PERIOD_PX; lag <= most; lag++) {
    const before = likeness[lag - 1]!;
    const here = likeness[lag]!;
    const after = likeness[lag + 1]!;
    if (here >= before && here > after && here >= LEAST_LIKENESS) {
      const bend = before - 2 * here + after;
      peaks.push({ lag: lag + (bend === 0 ? 0 : (0.5 * (before - after)) / bend), height: here });
    }
  }
  const best = peaks.reduce((top, p) => Math.max(top, p.height), 0);
  return peaks.find((p) => p.height >= SHARE_OF_BEST * best)?.lag ?? null;
}

/** Centres of lines at a period, px along the profile, each with its number in the row. */
export function centresOf(
  profile: Float64Array,
  period: number,
): { readonly number: number; readonly at: number }[] {
  const level = signed(flat(profile));
  const strongest = level.reduce((best, v, i) => (v > level[best]! ? i : best), 0);
  const found: { number: number; at: number; height: number }[] = [];
  for (const way of [1, -1]) {
    let last = strongest;
    let number = 0;
    for (let missed = 0; missed < 2;) {
      const expected = number === 0 ? strongest : last + way * period;
      const line = lineNear(level, expected, period);
      if (expected < 0 || expected >= level.length) break;
      const isAgain = number === 0 && way === -1;
      if (line && !isAgain) found.push({ number, ...line });
      missed = line ? 0 : missed + 1;
      last = line ? line.at : expected;
      number += way;
    }
  }
  const heights = found.map((l) => l.height).sort((a, b) => a - b);
  const middle = heights[Math.floor(heights.length / 2)] ?? 0;
  return found.filter((l) => l.height >= LEAST_HEIGHT * middle);
}

/** The line near a place: the middle of what stands out over half of its height; null at the ends and where nothing does. */
function lineNear(level: Float64Array, place: number, period: number): { at: number; height: number } | null {
  const reach = period / 3;
  const from = Math.ceil(place - reach);
  const to = Math.floor(place + reach);
  if (from < 1 || to > level.length - 2) return null;
  let top = from;
  for (let i = from; i <= to; i++) if (level[i]! > level[top]!) top = i;
  const height = level[top]!;
  if (height <= 0) return null;
  let weight = 0;
  let sum = 0;
  for (let i = top; i >= 0 && top - i < period / 2 && level[i]! > height / 2; i--) {
    weight += level[i]! - height / 2;
    sum += (level[i]! - height / 2) * i;
  }
  for (let i = top + 1; i < level.length && i - top < period / 2 && level[i]! > height / 2; i++) {
    weight += level[i]! - height / 2;
    sum += (level[i]! - height / 2) * i;
  }
  return { at: sum / weight, height };
}

/** The profile less its slow changes: the mean over a fifth of its length, twice. */
function flat(profile: Float64Array): Float64Array {
  const half = Math.max(2, Math.floor(profile.length / 10));
  return less(less(profile, half), half);
}
function less(values: Float64Array, half: number): Float64Array {
  const sums = new Float64Array(values.length + 1);
  values.forEach((v, i) => (sums[i + 1] = sums[i]! + v));
  return values.map((v, i) => {
    const reach = Math.min(half, i, values.length - 1 - i);
    return v - (sums[i + reach + 1]! - sums[i - reach]!) / (2 * reach + 1);
  });
}

/** With the lines upwards: they are narrow, so the skew of the values says whether they are dark or bright. */
function signed(level: Float64Array): Float64Array {
  const skew = level.reduce((sum, v) => sum + v ** 3, 0);
  return skew < 0 ? level.map((v) => -v) : level;
}

function correlationAt(level: Float64Array, lag: number): number {
  let product = 0;
  let one = 0;
  let other = 0;
  for (let i = 0; i + lag < level.length; i++) {
    product += level[i]! * level[i + lag]!;
    one += level[i]! ** 2;
    other += level[i + lag]! ** 2;
  }
  return one === 0 || other === 0 ? 0 : product / Math.sqrt(one * other);
}
