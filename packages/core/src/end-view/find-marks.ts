import type { PicturePlace } from '../side-view/picture-scale.ts';
import { MARK, MARK_SECTORS } from './camera-card.ts';
import { type ColourImage, greyAt, shrunkGreen } from './colour-image.ts';

/** A mark as it was found. */
export interface FoundMark {
  readonly id: number;
  readonly seen: PicturePlace;
  /** Pixels a mm along and across, as a symmetric matrix. */
  readonly perMm: readonly [xx: number, xy: number, yy: number];
  /** How far its ring's edge is spread, from a tenth to nine tenths of the light, mm. */
  readonly blurMm: number;
  readonly light: number;
  readonly dark: number;
}
export interface FoundMarks {
  readonly marks: readonly FoundMark[];
  /** So many were read as the mirror image of a mark. */
  readonly mirrored: number;
}

/** Pictures are looked through at about this long side, and again at the next where too little was found. */
const SIDES = [1300, 2200];
/** Darker than the mean round it by this share is dark. */
const DARKER = 0.8;
/** Half the side of the square whose mean is taken, share of the long side. */
const ROUND = 1 / 26;
/** Dots and rings: area in pixels, how far from round, and how much of their box they fill. */
const DOT = { least: 7, most: 2600, oblong: 2.4, fill: [0.6, 0.95] } as const;
const RING = { fill: [0.24, 0.62], ofDot: [1.9, 4.2], offCentre: 0.16 } as const;
/** Share of the places on the sectors that must agree with a word, and by how much more than with any other. */
const READ = { least: 0.84, margin: 0.05 };
const TURNS = 72;

interface Blob {
  readonly area: number;
  readonly x: number;
  readonly y: number;
  readonly xx: number;
  readonly xy: number;
  readonly yy: number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Finds the marks of a card in a photograph, each by its own sectors. */
export function findMarks(image: ColourImage): FoundMarks {
  let best: FoundMarks = { marks: [], mirrored: 0 };
  for (const side of SIDES) {
    const by = Math.max(1, Math.round(Math.max(image.width, image.height) / side));
    const found = marksAt(image, by);
    if (found.marks.length + found.mirrored > best.marks.length + best.mirrored) best = found;
    if (best.marks.length >= ENOUGH || by === 1) break;
  }
  return best;
}
const ENOUGH = 7;

function marksAt(image: ColourImage, by: number): FoundMarks {
  const small = shrunkGreen(image, by);
  const blobs = blobsOf(darkOf(small.level, small.width, small.height), small.width, small.height);
  const dots = blobs.filter((b) => isDot(b));
  const byId = new Map<number, FoundMark & { readonly agrees: number }>();
  let mirrored = 0;
  for (const dot of dots) {
    const ring = ringRound(dot, blobs);
    if (!ring) continue;
    const found = readMark(image, ring, by);
    if (!found) continue;
    if (found.isMirrored) {
      mirrored += 1;
      continue;
    }
    const before = byId.get(found.id);
    if (!before || before.agrees < found.agrees) byId.set(found.id, found);
  }
  return { marks: [...byId.values()], mirrored };
}

/** What is darker than its surroundings: than the mean of a square round it, as far as the picture goes. */
function darkOf(level: Float32Array, width: number, height: number): Uint8Array {
  const r = Math.max(6, Math.round(Math.max(width, height) * ROUND));
  const dark = new Uint8Array(width * height);
  // Sums of the columns over the rows that a square has, moved on row by row; nothing lies beyond the borders.
  const columns = new Float64Array(width + 2 * r + 1);
  const across = Float64Array.from(
    { length: width },
    (_, x) => Math.min(width, x + r + 1) - Math.max(0, x - r),
  );
  const add = (y: number): void => {
    for (let x = 0, i = y * width; x < width; x++, i++) columns[x + r + 1]! += level[i]!;
  };
  const takeAway = (y: number): void => {
    for (let x = 0, i = y * width; x < width; x++, i++) columns[x + r + 1]! -= level[i]!;
  };
  for (let y = 0; y < Math.min(r, height); y++) add(y);
  for (let y = 0; y < height; y++) {
    if (y + r < height) add(y + r);
    if (y - r > 0) takeAway(y - r - 1);
    const rows = (Math.min(height, y + r + 1) - Math.max(0, y - r)) / DARKER;
    let sum = 0;
    for (let x = 0; x < 2 * r + 1; x++) sum += columns[x]!;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      sum += columns[x + 2 * r + 1]! - columns[x]!;
      dark[i] = level[i]! * rows * across[x]! < sum ? 1 : 0;
    }
  }
  return dark;
}

/** Dark places that hang together, with their moments. */
function blobsOf(dark: Uint8Array, width: number, height: number): Blob[] {
  const blobs: Blob[] = [];
  const open = new Int32Array(width * height);
  for (let start = 0; start < dark.length; start++) {
    if (dark[start] !== 1) continue;
    let n = 0;
    open[n++] = start;
    dark[start] = 2;
    let area = 0;
    let sx = 0;
    let sy = 0;
    let sxx = 0;
    let sxy = 0;
    let syy = 0;
    let left = width;
    let right = 0;
    let top = height;
    let bottom = 0;
    while (n > 0) {
      const i = open[--n]!;
      const x = i % width;
      const y = (i - x) / width;
      area += 1;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
      syy += y * y;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
      if (x > 0 && dark[i - 1] === 1) dark[(open[n++] = i - 1)] = 2;
      if (x < width - 1 && dark[i + 1] === 1) dark[(open[n++] = i + 1)] = 2;
      if (y > 0 && dark[i - width] === 1) dark[(open[n++] = i - width)] = 2;
      if (y < height - 1 && dark[i + width] === 1) dark[(open[n++] = i + width)] = 2;
    }
    if (area < DOT.least) continue;
    const x = sx / area;
    const y = sy / area;
    blobs.push({
      area,
      x,
      y,
      xx: sxx / area - x * x,
      xy: sxy / area - x * y,
      yy: syy / area - y * y,
      left,
      right,
      top,
      bottom,
    });
  }
  return blobs;
}

function isDot(b: Blob): boolean {
  const w = b.right - b.left + 1;
  const h = b.bottom - b.top + 1;
  const fill = b.area / (w * h);
  return (
    b.area <= DOT.most &&
    Math.max(w, h) <= DOT.oblong * Math.min(w, h) &&
    fill > DOT.fill[0] &&
    fill <= DOT.fill[1] + 0.05
  );
}

/** The ring round a dot: its middle is the dot's. */
function ringRound(dot: Blob, blobs: readonly Blob[]): Blob | null {
  const dotSize = Math.sqrt((dot.right - dot.left + 1) * (dot.bottom - dot.top + 1));
  let best: Blob | null = null;
  for (const b of blobs) {
    if (b === dot || b.left >= dot.left || b.right <= dot.right || b.top >= dot.top || b.bottom <= dot.bottom)
      continue;
    const w = b.right - b.left + 1;
    const h = b.bottom - b.top + 1;
    const size = Math.sqrt(w * h);
    if (size < RING.ofDot[0] * dotSize || size > RING.ofDot[1] * dotSize) continue;
    const fill = b.area / (w * h);
    if (fill < RING.fill[0] || fill > RING.fill[1]) continue;
    if (Math.hypot(b.x - dot.x, b.y - dot.y) > RING.offCentre * size) continue;
    if (!best || b.area < best.area) best = b;
  }
  return best;
}

/** Second moment of a ring of unit mm, each way. */
const RING_MOMENT = (MARK.ring[0] ** 2 + MARK.ring[1] ** 2) / 4;

function readMark(
  image: ColourImage,
  ring: Blob,
  by: number,
): (FoundMark & { readonly agrees: number; readonly isMirrored: boolean }) | null {
  const perMm = rootOf(ring.xx / RING_MOMENT, ring.xy / RING_MOMENT, ring.yy / RING_MOMENT, by);
  if (!perMm) return null;
  const rough = { x: (ring.x + 0.5) * by - 0.5, y: (ring.y + 0.5) * by - 0.5 };
  const place = (at: PicturePlace, radius: number, angle: number): PicturePlace => {
    const u = radius * Math.cos(angle);
    const v = radius * Math.sin(angle);
    return { x: at.x + perMm[0] * u + perMm[1] * v, y: at.y + perMm[1] * u + perMm[2] * v };
  };
  const meanAt = (at: PicturePlace, radius: number): number => {
    let sum = 0;
    let n = 0;
    for (let k = 0; k < 24; k++) {
      const p = place(at, radius, (k * Math.PI) / 12);
      const level = greyAt(image, p.x, p.y);
      if (level === null) continue;
      sum += level;
      n += 1;
    }
    return n < 24 ? Number.NaN : sum / n;
  };
  const dark = meanAt(rough, (MARK.ring[0] + MARK.ring[1]) / 2);
  const light = Math.max(
    meanAt(rough, (MARK.ring[1] + MARK.sectors[0]) / 2),
    meanAt(rough, (MARK.dot + MARK.ring[0]) / 2),
  );
  if (!(light - dark > 25)) return null;
  const seen = middleOfMark(image, rough, perMm, light, dark);
  const turned = sectorsAt(
    image,
    (angle) =>
      [0.28, 0.5, 0.72].map((s) =>
        place(seen, MARK.sectors[0] + s * (MARK.sectors[1] - MARK.sectors[0]), angle),
      ),
    (light + dark) / 2,
  );
  const words = wordsOf(turned);
  if (words.agrees < READ.least || words.agrees - words.next < READ.margin) return null;
  return {
    id: words.id,
    isMirrored: words.isMirrored,
    agrees: words.agrees,
    seen,
    perMm,
    light,
    dark,
    blurMm: edgeOf((radius) => meanAt(seen, radius), light, dark),
  };
}

/** Square root of a matrix of moments, as pixels of the whole picture a mm. */
function rootOf(xx: number, xy: number, yy: number, by: number): readonly [number, number, number] | null {
  const det = xx * yy - xy * xy;
  if (!(det > 0)) return null;
  const s = Math.sqrt(det);
  const t = Math.sqrt(xx + yy + 2 * s);
  return [((xx + s) / t) * by, (xy / t) * by, ((yy + s) / t) * by];
}

/** The middle of dot and ring, by how much light they take. */
function middleOfMark(
  image: ColourImage,
  rough: PicturePlace,
  perMm: readonly [number, number, number],
  light: number,
  dark: number,
): PicturePlace {
  let at = rough;
  for (let round = 0; round < 3; round++) at = darkMiddle(image, at, perMm, REACH_MM, light, dark) ?? at;
  return at;
}
/** Half-way in the white gap round the ring. */
const REACH_MM = (MARK.ring[1] + MARK.sectors[0]) / 2;

/** The middle of what is dark within an ellipse of so many mm. Null where nothing is. */
export function darkMiddle(
  image: ColourImage,
  at: PicturePlace,
  [a, b, d]: readonly [number, number, number],
  reachMm: number,
  light: number,
  dark: number,
): PicturePlace | null {
  const det = a * d - b * b;
  // The ellipse: along x² + 2 skew x y + across y² is no more than the square of the reach.
  const along = (d * d + b * b) / det ** 2;
  const skew = (-b * (a + d)) / det ** 2;
  const across = (a * a + b * b) / det ** 2;
  const reachY = Math.ceil(reachMm * Math.hypot(b, d));
  const { width, height, data } = image;
  let sum = 0;
  let sx = 0;
  let sy = 0;
  const y0 = Math.round(at.y);
  for (let y = Math.max(0, y0 - reachY); y <= Math.min(height - 1, y0 + reachY); y++) {
    const dy = y - at.y;
    const middle = -(skew * dy) / along;
    const square = (reachMm ** 2 - across * dy * dy) / along + middle * middle;
    if (square < 0) continue;
    const half = Math.sqrt(square);
    const last = Math.min(width - 1, Math.floor(at.x + middle + half));
    for (let x = Math.max(0, Math.ceil(at.x + middle - half)); x <= last; x++) {
      const i = 4 * (y * width + x);
      const level = 0.5 * (data[i]! + data[i + 1]!);
      const share = Math.max(0, Math.min(1, (light - level) / (light - dark)));
      sum += share;
      sx += share * (x - at.x);
      sy += share * dy;
    }
  }
  return sum < 3 ? null : { x: at.x + sx / sum, y: at.y + sy / sum };
}

/** Whether the sectors are dark, at so many angles round the mark. */
function sectorsAt(
  image: ColourImage,
  places: (angle: number) => readonly PicturePlace[],
  middle: number,
): boolean[] {
  return Array.from({ length: TURNS }, (_, k) => {
    const levels = places((2 * Math.PI * k) / TURNS).map((p) => greyAt(image, p.x, p.y) ?? 255);
    return levels.reduce((sum, l) => sum + l, 0) / levels.length < middle;
  });
}

interface ReadWord {
  readonly id: number;
  readonly isMirrored: boolean;
  readonly agrees: number;
  readonly next: number;
}
/** The word that agrees best with what is dark round a mark, at any turn, straight or in a mirror. */
function wordsOf(dark: readonly boolean[]): ReadWord {
  const each = TURNS / MARK_SECTORS[0].length;
  let best = { id: -1, isMirrored: false, agrees: 0 };
  let next = 0;
  MARK_SECTORS.forEach((word, id) => {
    for (const isMirrored of [false, true]) {
      const read = isMirrored ? [...word].reverse().join('') : word;
      let most = 0;
      for (let turn = 0; turn < TURNS; turn++) {
        let same = 0;
        for (let k = 0; k < TURNS; k++)
          if (dark[(k + turn) % TURNS] === (read[Math.floor(k / each)] === '1')) same += 1;
        most = Math.max(most, same / TURNS);
      }
      if (most > best.agrees) {
        next = best.agrees;
        best = { id, isMirrored, agrees: most };
      } else next = Math.max(next, most);
    }
  });
  return { ...best, next };
}

/** From a tenth to nine tenths of the light at the outer edge of the ring, mm. */
function edgeOf(meanAt: (radius: number) => number, light: number, dark: number): number {
  const from = (MARK.ring[0] + MARK.ring[1]) / 2;
  const to = (MARK.ring[1] + MARK.sectors[0]) / 2;
  const crossing = (share: number): number => {
    const level = dark + share * (light - dark);
    for (let k = 1; k <= 60; k++) {
      const r = from + ((to - from) * k) / 60;
      if (meanAt(r) >= level) return r;
    }
    return to;
  };
  return crossing(0.85) - crossing(0.15);
}
