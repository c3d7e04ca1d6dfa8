import type { SmallPicture, Background } from './background.ts';

/** A straight strip of the small picture: its middle line and its height. */
export interface Strip {
  /** Middle at column 0, and rows a column. */
  readonly middle: number;
  readonly slope: number;
  readonly height: number;
  /** The first and the last column that show it. */
  readonly from: number;
  readonly to: number;
}
interface Run {
  readonly top: number;
  readonly bottom: number;
}

/** Darker than the light by so many spreads, and by such a share of it, is not light. */
const DARKER = { spreads: 5, share: 0.1 };
const LEAST_RUN = 2;
const FITS = 2.2;
const LEAST_HEIGHT = 12;
const MOST_HEIGHT = 0.85;
const MOST_SLOPE = 0.5;
const LEAST_COLUMNS = 0.06;
const GAP_COLUMNS = 14;
/** Pairs of columns that are tried; every so many. */
const TRIES = 90;

/** What is darker than the light, without what is thinner than three pixels. */
export function darkPlaces({ width, height, level }: SmallPicture, light: Background): Uint8Array {
  const dark = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const behind = light.at(x, y);
      const least = Math.max(DARKER.spreads * light.spread, DARKER.share * behind);
      dark[y * width + x] = behind - level[y * width + x]! > least ? 1 : 0;
    }
  }
  return opened(dark, width, height);
}

function opened(dark: Uint8Array, width: number, height: number): Uint8Array {
  // Rows alone: a line that is drawn over the picture goes, the thin side of an overexposed fiber stays.
  const out = new Uint8Array(dark.length);
  for (let x = 0; x < width; x++) {
    for (let y = 0; y + 1 < height; y++) {
      if (dark[y * width + x] && dark[(y + 1) * width + x]) {
        out[y * width + x] = 1;
        out[(y + 1) * width + x] = 1;
      }
    }
  }
  return out;
}

/** Dark runs of each column that do not touch the upper or the lower border: bars, frames and the edge of a screen do. */
function runsOf(dark: Uint8Array, width: number, height: number): Run[][] {
  return Array.from({ length: width }, (_, x) => {
    const runs: Run[] = [];
    let top = -1;
    for (let y = 0; y <= height; y++) {
      const isDark = y < height && dark[y * width + x] === 1;
      if (isDark && top < 0) top = y;
      if (!isDark && top >= 0) {
        if (top > 0 && y < height && y - top >= LEAST_RUN) runs.push({ top, bottom: y });
        top = -1;
      }
    }
    return runs;
  });
}

/**
 * The strips that fibers make in the dark places of a picture, the longest first: at most two, of about one height. Between their upper and
 * their lower edge anything may lie, for a fiber is bright in its middle.
 */
export function findStrips(dark: Uint8Array, width: number, height: number): Strip[] {
  const runs = runsOf(dark, width, height);
  const first = bestStrip(runs, width, height, () => true);
  if (!first) return [];
  const isFree = (x: number): boolean => x < first.from - 1 || x > first.to + 1;
  const second = bestStrip(runs, width, height, isFree);
  if (!second || Math.abs(second.height - first.height) > 0.14 * first.height) return [first];
  return [first, second];
}

function bestStrip(
  runs: readonly Run[][],
  width: number,
  height: number,
  isFree: (x: number) => boolean,
): Strip | null {
  const columns = Array.from({ length: width }, (_, x) => x).filter((x) => isFree(x) && runs[x]!.length > 0);
  if (columns.length < LEAST_COLUMNS * width) return null;
  let best: { strip: Strip; score: number } | null = null;
  const step = Math.max(1, Math.floor((columns.length * 3) / TRIES));
  for (const share of [0.15, 0.35, 0.6]) {
    const apart = Math.max(4, Math.floor(columns.length * share));
    for (let i = 0; i + apart < columns.length; i += step) {
      const left = columns[i]!;
      const right = columns[i + apart]!;
      for (const l of pairsOf(runs[left]!, height)) {
        for (const r of pairsOf(runs[right]!, height)) {
          if (Math.abs(l.bottom - l.top - r.bottom + r.top) > 2 * FITS) continue;
          const slope = (r.top + r.bottom - l.top - l.bottom) / 2 / (right - left);
          if (Math.abs(slope) > MOST_SLOPE) continue;
          const strip = {
            slope,
            middle: (l.top + l.bottom) / 2 - slope * left,
            height: (l.bottom - l.top + r.bottom - r.top) / 2,
          };
          const seen = columnsOf(runs, columns, strip);
          // By area: the dark sides of a fiber are strips as well, and it is all of it that is wanted.
          const score = seen.length * strip.height;
          if (seen.length >= LEAST_COLUMNS * width && (!best || score > best.score))
            best = { strip: { ...strip, from: seen[0]!, to: seen.at(-1)! }, score };
        }
      }
    }
  }
  return best && refined(best.strip, runs, columns);
}

/** Upper edges with lower edges that can be those of one fiber: the outermost of the runs of a column, and each run alone. */
function pairsOf(runs: readonly Run[], height: number): Run[] {
  const pairs: Run[] = [];
  for (let i = 0; i < runs.length; i++) {
    for (let j = i; j < runs.length; j++) {
      const pair = { top: runs[i]!.top, bottom: runs[j]!.bottom };
      const h = pair.bottom - pair.top;
      if (h >= LEAST_HEIGHT && h <= MOST_HEIGHT * height) pairs.push(pair);
    }
  }
  return pairs;
}

function fits(runs: readonly Run[], top: number, bottom: number): boolean {
  return (
    runs.some((r) => Math.abs(r.top - top) <= FITS) && runs.some((r) => Math.abs(r.bottom - bottom) <= FITS)
  );
}
/** The longest row of columns that show a strip, with gaps as dust and bubbles make them. */
function columnsOf(
  runs: readonly Run[][],
  columns: readonly number[],
  { middle, slope, height }: Pick<Strip, 'middle' | 'slope' | 'height'>,
): number[] {
  let best: number[] = [];
  let now: number[] = [];
  for (const x of columns) {
    const at = middle + slope * x;
    if (!fits(runs[x]!, at - height / 2, at + height / 2)) continue;
    const last = now.at(-1);
    if (last !== undefined && x - last > GAP_COLUMNS) now = [];
    now.push(x);
    if (now.length > best.length) best = now;
  }
  return best;
}

/** Fitted to all columns that show it, once more. */
function refined(strip: Strip, runs: readonly Run[][], columns: readonly number[]): Strip {
  const seen = columnsOf(runs, columns, strip);
  let n = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let sxy = 0;
  let sh = 0;
  for (const x of seen) {
    const at = strip.middle + strip.slope * x;
    const nearest = (edge: 'top' | 'bottom', to: number): number =>
      runs[x]!.reduce((b, r) => (Math.abs(r[edge] - to) < Math.abs(b - to) ? r[edge] : b), Infinity);
    const top = nearest('top', at - strip.height / 2);
    const bottom = nearest('bottom', at + strip.height / 2);
    const y = (top + bottom) / 2;
    n += 1;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
    sh += bottom - top;
  }
  const det = n * sxx - sx * sx;
  if (n < 3 || det <= 0) return strip;
  const slope = (n * sxy - sx * sy) / det;
  const better = { slope, middle: (sy - slope * sx) / n, height: sh / n };
  const again = columnsOf(runs, columns, better);
  if (again.length < seen.length) return strip;
  return { ...better, from: again[0]!, to: again.at(-1)! };
}
