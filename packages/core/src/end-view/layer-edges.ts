import { middleOf, selectNth } from '../faces/pixels/quantile.ts';
import { runningMean } from '../faces/pixels/running-mean.ts';
import type { EndStrip } from './end-strip.ts';
import { followBuffer, followThin, type Followed } from './follow-cable.ts';

/** A place along a strip, in columns, with its standard uncertainty in mm. */
export interface LayerEdge {
  readonly column: number;
  readonly sdMm: number;
}
/** Where the layers of a prepared end begin, seen from its tip. Null for a layer that is not there or not seen. */
export interface LayerEdges {
  readonly tip: LayerEdge;
  readonly glass: LayerEdge | null;
  readonly buffer: LayerEdge | null;
  readonly jacket: LayerEdge | null;
  readonly jacketWidthMm: number | null;
  readonly bufferWidthMm: number | null;
  /** Whether the thin fiber is seen well enough to say where it ends. */
  readonly isTipSeen: boolean;
}

/** Thicker than this is a jacket, thinner a buffer, mm. */
const JACKET_MM = 1.4;
/** Colour of the cable is read over so many mm behind an edge. */
const BEHIND_MM = 5;
const STAYS_MM = 1.2;
/** Rows beside a buffer in which only a jacket lies, and beside a coating in which only a buffer does, mm from the middle. */
const BESIDE_BUFFER = 0.58;
const BESIDE_COATING = [0.27, 0.43] as const;
/** Across the thin fiber, mm: what is summed, and what is taken for paper beside it. */
const ACROSS = { fiber: 0.34, from: 0.55, to: 1 } as const;
const SD_MM = { jacket: 0.07, buffer: 0.06, thin: 0.07 };

/** Finds the layers of the end that a followed cable shows. Null where no thick part ends. */
export function layerEdges(
  strip: EndStrip,
  given: Followed,
): (LayerEdges & { readonly followed: Followed }) | null {
  const { perMm } = strip;
  const { start } = given;
  const cable = usualWidth(given.width, start - Math.round(9 * perMm), start - Math.round(perMm));
  const hasJacket = cable > JACKET_MM;
  const inJacket = hasJacket
    ? edgeBetween(strip, given, start, [BESIDE_BUFFER, Math.max(BESIDE_BUFFER + 0.12, cable / 2 - 0.2)])
    : null;
  if (hasJacket && inJacket === null) return null;
  const buffered = inJacket === null ? given : followBuffer(strip, given, inJacket - 0.2 * perMm);
  // Behind a jacket's edge yarn may lie over the buffer.
  const from = inJacket === null ? start : inJacket - 0.9 * perMm;
  const inBuffer = edgeBetween(strip, buffered, from, BESIDE_COATING);
  const bufferWidth =
    inBuffer === null
      ? null
      : usualWidth(given.width, Math.round(inBuffer + perMm), Math.round(from - 2 * perMm));
  const thinFrom = inBuffer ?? (inJacket === null ? null : inJacket - 0.5 * perMm);
  if (thinFrom === null) return null;
  const followed = followThin(strip, buffered, thinFrom);
  const thin = thinEdges(strip, followed, thinFrom);
  const blur = 0.3 / perMm;
  const edge = (column: number | null, sd: number): LayerEdge | null =>
    column === null ? null : { column, sdMm: Math.hypot(sd, blur) };
  const tip = thin?.tip ?? thinFrom;
  return {
    followed,
    tip: { column: tip, sdMm: thin ? Math.hypot(SD_MM.thin, blur, thin.sdMm) : 0.5 },
    glass: thin ? edge(thin.glass, Math.hypot(SD_MM.thin, thin.glassSdMm)) : null,
    buffer: edge(inBuffer, SD_MM.buffer),
    jacket: edge(inJacket, SD_MM.jacket),
    jacketWidthMm: hasJacket ? cable : null,
    bufferWidthMm: bufferWidth,
    isTipSeen: thin !== null,
  };
}

function usualWidth(width: Float32Array, from: number, to: number): number {
  const some = width.slice(Math.max(0, from), Math.max(0, to)).filter((w) => w > 0);
  return some.length === 0 ? 0 : middleOf(some);
}

/** How much of a layer's colour lies at a place beside the middle, 0 to 1, the lesser half of the rows given. */
function shareOf(
  strip: EndStrip,
  { middle }: Followed,
  colour: readonly number[],
  column: number,
  [near, far]: readonly [number, number],
): number {
  const { off, columns, rows, perMm } = strip;
  const size = colour.reduce((sum, c) => sum + c * c, 0);
  const found = new Float32Array(4 * Math.ceil(far * perMm) + 8);
  let n = 0;
  const step = Math.max(1, (far - near) * perMm) / Math.max(2, Math.round((far - near) * perMm));
  for (const side of [-1, 1]) {
    for (let d = near * perMm; d <= far * perMm + 1e-6; d += step) {
      const row = Math.round(middle[column]! + side * d);
      if (row < 0 || row >= rows) continue;
      const i = row * columns + column;
      const along = off[0][i]! * colour[0]! + off[1][i]! * colour[1]! + off[2][i]! * colour[2]!;
      found[n++] = Math.max(0, Math.min(1.3, along / size));
    }
  }
  return n === 0 ? 0 : selectNth(found.slice(0, n), Math.floor(0.4 * n));
}

/** The colour of what lies so far beside the middle, over some columns. */
function colourOf(
  { off, columns, perMm }: EndStrip,
  { middle }: Followed,
  from: number,
  to: number,
  [near, far]: readonly [number, number],
): number[] {
  return off.map((plane) => {
    let sum = 0;
    let n = 0;
    for (let k = Math.max(0, Math.round(from)); k <= Math.min(columns - 1, to); k++) {
      for (const side of [-1, 1]) {
        for (let d = near * perMm; d <= far * perMm + 1e-6; d++) {
          sum += plane[Math.round(middle[k]! + side * d) * columns + k] ?? 0;
          n += 1;
        }
      }
    }
    return n === 0 ? 0 : sum / n;
  });
}

/**
 * Where a layer ends, from the cable's side on: the rows beside its inner layer show its colour up to there. Null where it goes on to the border of the
 * card.
 */
function edgeBetween(
  strip: EndStrip,
  followed: Followed,
  from: number,
  band: readonly [number, number],
): number | null {
  const { perMm } = strip;
  const colour = colourOf(strip, followed, from - BEHIND_MM * perMm, from - 0.8 * perMm, band);
  if (Math.hypot(...colour) < 0.03) return null;
  const n = Math.floor(from);
  if (n < 4) return null;
  const raw = Float32Array.from({ length: n + 1 }, (_, k) => shareOf(strip, followed, colour, k, band));
  const shares = runningMean(raw, Math.max(1, Math.round(0.12 * perMm)));
  const behind = middleOf(
    shares.slice(Math.max(0, Math.round(n - BEHIND_MM * perMm)), Math.max(1, Math.round(n - 0.5 * perMm))),
  );
  if (behind < 0.15) return null;
  const stays = Math.round(STAYS_MM * perMm);
  let run = 0;
  for (let k = n; k >= 0; k--) {
    run = shares[k]! < 0.5 * behind ? run + 1 : 0;
    if (run < stays && !(k === 0 && run > stays / 2)) continue;
    const at = k + run;
    // Beyond the edge: yarn and light that the layer throws back make it more than nothing.
    const beyond = middleOf(
      shares.slice(Math.max(0, Math.round(at - 3 * perMm)), Math.max(1, Math.round(at - 0.8 * perMm))),
    );
    const level = (behind + Math.min(beyond, 0.6 * behind)) / 2;
    return crossing(shares, at, level, Math.round(0.8 * perMm));
  }
  return null;
}

/** Where a row of values passes a level near a place, between its steps: the nearest to it. */
function crossing(values: Float32Array, at: number, level: number, reach: number): number {
  let best = at;
  let least = Infinity;
  for (let k = Math.max(1, at - reach); k <= Math.min(values.length - 1, at + reach); k++) {
    const before = values[k - 1]!;
    const own = values[k]!;
    if (before >= level || own < level) continue;
    const place = k - 1 + (level - before) / (own - before);
    if (Math.abs(place - at) < least) {
      least = Math.abs(place - at);
      best = place;
    }
  }
  return best;
}

interface ThinEdges {
  readonly tip: number;
  readonly glass: number;
  readonly sdMm: number;
  readonly glassSdMm: number;
}
/** Grid of the two places along the thin fiber, mm, and how much of it is fiber at least. */
const GRID_MM = 0.1;
const LEAST_MM = 1.5;

/**
 * Where the coating and where the fiber end: two steps in how much it differs from the paper across it, by least squares over all pairs of places. Null
 * where nothing thin is seen.
 */
function thinEdges(strip: EndStrip, followed: Followed, from: number): ThinEdges | null {
  const { perMm } = strip;
  const cells = Math.floor((from - 0.25 * perMm) / (GRID_MM * perMm));
  if (cells < 12) return null;
  // From the thick part outwards.
  const seen = Array.from({ length: cells }, (_, i) =>
    seenThin(strip, followed, from - 0.25 * perMm - (i + 0.5) * GRID_MM * perMm),
  );
  const clean = seen.map((_, i) => middleOf(Float32Array.from(seen.slice(Math.max(0, i - 2), i + 3))));
  const sum = [0];
  const squares = [0];
  for (const v of clean) {
    sum.push(sum.at(-1)! + v);
    squares.push(squares.at(-1)! + v * v);
  }
  const left = (a: number, b: number): number =>
    b <= a ? 0 : squares[b]! - squares[a]! - (sum[b]! - sum[a]!) ** 2 / (b - a);
  const mean = (a: number, b: number): number => (b <= a ? 0 : (sum[b]! - sum[a]!) / (b - a));
  // One step alone: the fiber ends.
  let one = { cost: Infinity, tip: 0 };
  for (let tip = Math.round(LEAST_MM / GRID_MM); tip <= cells; tip++) {
    const cost = left(0, tip) + left(tip, cells);
    if (cost < one.cost) one = { cost, tip };
  }
  let two = { cost: Infinity, glass: 0, tip: 0 };
  for (let glass = 5; glass < cells - 5; glass++) {
    for (let tip = glass + 8; tip <= cells; tip++) {
      const cost = left(0, glass) + left(glass, tip) + left(tip, cells);
      if (cost < two.cost && mean(glass, tip) > mean(tip, cells)) two = { cost, glass, tip };
    }
  }
  const spread = Math.sqrt(Math.min(one.cost, two.cost) / cells) || 1e-6;
  const isTwo =
    two.cost < 0.8 * one.cost && Math.abs(mean(0, two.glass) - mean(two.glass, two.tip)) > 1.2 * spread;
  const tipAt = isTwo ? two.tip : one.tip;
  const glassAt = isTwo ? two.glass : 0;
  const fiber = mean(glassAt, tipAt);
  const paper = mean(tipAt, cells);
  if (!(fiber - paper > 0.6 * spread) || fiber - paper < LEAST_SEEN_MM) return null;
  const column = (i: number): number => from - 0.25 * perMm - i * GRID_MM * perMm;
  // Steps are seen to within the cells that noise needs to hide them (Hinkley 1970, roughly).
  const sd = (step: number): number =>
    GRID_MM * Math.min(12, Math.max(0.4, (spread / Math.max(1e-6, step)) ** 2));
  return {
    tip: column(tipAt),
    glass: isTwo ? column(glassAt) : from,
    sdMm: sd(fiber - paper),
    glassSdMm: isTwo ? sd(Math.abs(mean(0, glassAt) - fiber)) : 0.15,
  };
}
/** A fiber differs from paper by as much as so many mm of black. */
const LEAST_SEEN_MM = 0.004;

/** How much lies across the fiber at a column: mm of what differs wholly from paper. */
function seenThin({ columns, rows, perMm, differs }: EndStrip, { middle }: Followed, at: number): number {
  const reach = Math.max(1, Math.round((GRID_MM * perMm) / 2));
  let own = 0;
  let beside = 0;
  let n = 0;
  let of = 0;
  for (let k = Math.round(at) - reach; k <= Math.round(at) + reach; k++) {
    if (k < 0 || k >= columns) continue;
    const row = middle[k]!;
    for (let r = Math.round(row - ACROSS.to * perMm); r <= row + ACROSS.to * perMm; r++) {
      if (r < 0 || r >= rows) continue;
      const away = Math.abs(r - row) / perMm;
      const value = differs[r * columns + k]!;
      if (away <= ACROSS.fiber) {
        own += value;
        n += 1;
      } else if (away >= ACROSS.from) {
        beside += value;
        of += 1;
      }
    }
  }
  return n === 0 || of === 0 ? 0 : (own / n - beside / of) * 2 * ACROSS.fiber;
}
