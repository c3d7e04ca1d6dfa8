import type { FaceSettings } from './settings.ts';
import { lostAtCorners } from './spots/corners.ts';
import type { FlatFace } from './cladding/flat-face.ts';
import { findLines, isSameLine } from './lines/find-lines.ts';
import { circleOf, edgeOf, elongation, outlineCircle } from './spots/spot-shape.ts';
import { FINE, type Spot, type SpotGround } from './spots/spot.ts';
import { findSpots, growSpot, joinThin, peeledGround, spotGround } from './spots/find-spots.ts';
import { diameterBehindBlur, halfHeightWidth, isPlainlySeen } from './spots/small-size.ts';
import type { MeasuredLine } from './lines/found-line.ts';
import { barAt } from './pixels/line-profile.ts';
import { measureLine } from './lines/measure-line.ts';
import { endsOf, liesAhead } from './lines/line-ends.ts';
import { axisOf } from './lines/trace-lines.ts';
import { mergeLines } from './lines/merge-lines.ts';
import { peelLines } from './lines/peel-lines.ts';

/** A feature as it lies in the square of a flattened face; pixels. */
export interface FoundFeature {
  readonly kind: 'scratch' | 'defect';
  readonly x: number;
  readonly y: number;
  /** Width of a scratch, enclosing diameter of a defect. */
  readonly size: number;
  readonly length: number;
  readonly area: number;
  /** Difference to its surroundings over the noise. */
  readonly contrast: number;
  readonly nearest: number;
  readonly farthest: number;
  /** Its middle line, or the pixels of its edge. */
  readonly points: readonly (readonly [number, number])[];
}

/** Scales at which spots are looked for; standard deviations in pixels. */
const SCALES = [4, 2, 1];

/**
 * Everything that stands out of a flattened cladding: lines first, since a line broken into pieces would look like a row
 * of defects; they are taken out, and what is left is looked through for spots of three scales, each grown to half its
 * height and measured by its smallest enclosing circle. A long thin smooth spot is a scratch.
 */
export function findFeatures(
  face: FlatFace,
  blurPx: number,
  settings: FaceSettings,
): readonly FoundFeature[] {
  const before = spotGround(face, settings);
  // Plain spots are kept off the lines: to their search they would be short wide lines with shadows beside them.
  const free = face.inside.slice();
  for (const spot of findSpots(before, [4, 2], settings)) {
    if (isPlain(spot, face.side, settings)) keepOff(free, face.side, spot, settings);
  }
  const found = findLines(face, free, blurPx, before.spread, settings).filter(
    (line) =>
      (line.length > settings.features.faintPx ||
        contrastOf(line, before.spread) >= settings.features.faintContrast) &&
      isScratch(face, line, settings),
  );
  const lines = withoutCracks(found, before, settings);
  const peeled = peelLines(face, lines, settings);
  const ground = lines.length === 0 ? before : peeledGround(peeled, before);
  const rest: Spot[] = [];
  const all = [...lines];
  for (const spot of findSpots(ground, SCALES, settings)) {
    if (lines.length > 0 && !standsOutBefore(before, spot, settings)) continue;
    const short = shortLine(peeled, spot, blurPx, before.spread, settings);
    if (!short || !isScratch(face, short, settings)) rest.push(spot);
    else if (contrastOf(short, before.spread) < settings.features.faintContrast) continue;
    else if (!all.some((line) => isSameLine(line, short, face.side, settings))) all.push(short);
  }
  const rim = farthestIn(face) - settings.features.rimPx;
  const { lines: merged, cracks } = apartFromCracks(mergeLines(all, settings), rest, face, settings);
  const bars: MeasuredLine[] = [];
  const defects = joinThin(
    [...rest.filter((spot) => !cracks.some((c) => c.of.includes(spot))), ...cracks.map((c) => c.spot)],
    face.side,
    settings,
  )
    .filter((spot) => !isLeftAhead(face, spot, merged, settings))
    .filter((spot) => {
      const bar = barOf(face, spot, blurPx, settings);
      if (bar) bars.push(bar);
      return !bar;
    })
    .map((spot) => defectOf(ground, spot, blurPx, settings))
    .filter((defect) => defect.nearest < rim)
    // Sharper than the lens lets anything be, and hardly more than noise.
    .filter((defect) => defect.size > 0 || defect.contrast >= settings.features.pointContrast);
  return [...[...merged, ...bars].map((line) => scratchOf(face, line, before.spread)), ...defects];
}

/** A spot that the picture with its lines in it does not show is a gap of a line, which was taken out as if it went on. */
const standsOutBefore = (
  { fine }: SpotGround,
  { pixels, sign, peak }: Spot,
  settings: FaceSettings,
): boolean =>
  (sign * pixels.reduce((sum, i) => sum + fine[i]!, 0)) / pixels.length >
  settings.features.shownBefore * peak;

interface Crack {
  readonly spot: Spot;
  /** The spots that are part of it. */
  readonly of: readonly Spot[];
}

/**
 * A short line with several spots of its sign hanging on it is a crack: its straight part was taken for a scratch. It becomes
 * one spot with them.
 */
function apartFromCracks(
  lines: readonly MeasuredLine[],
  spots: readonly Spot[],
  face: FlatFace,
  settings: FaceSettings,
): { lines: readonly MeasuredLine[]; cracks: readonly Crack[] } {
  const { side, umPerPx } = face;
  const cracks: Crack[] = [];
  const kept = lines.filter((line) => {
    if (line.length * umPerPx > settings.features.longestCrackUm) return true;
    if (!isScratch(face, line, settings)) {
      cracks.push({ spot: { pixels: pixelsOf(line, side), sign: line.sign, peak: line.height }, of: [] });
      return false;
    }
    const on = new Uint8Array(face.level.length);
    const own = pixelsOf(line, side);
    const reach = Math.ceil(settings.features.hangsOnUm / umPerPx);
    for (const i of own)
      for (let dy = -reach; dy <= reach; dy++)
        for (let dx = -reach; dx <= reach; dx++) on[i + dy * side + dx] = 1;
    const hanging = spots.filter(
      (spot) => spot.sign === line.sign && spot.pixels.some((i) => on[i]) && shareOn(spot, on) < 0.9,
    );
    if (hanging.length < settings.features.leastHanging) return true;
    const pixels = [...new Set([...own, ...hanging.flatMap((spot) => spot.pixels)])];
    cracks.push({ spot: { pixels, sign: line.sign, peak: line.height }, of: hanging });
    return false;
  });
  return { lines: kept, cracks };
}

/** The glass has its middle in it, the ferrule lies round what is not looked at. */
const isGlass = ({ inside, side }: FlatFace): boolean => inside[(side >> 1) * side + (side >> 1)] === 1;

/** The pixels that a line covers. */
function pixelsOf(line: MeasuredLine, side: number): number[] {
  const covered = new Set<number>();
  const half = Math.max(0.5, line.width / 2);
  for (const [px, py] of line.points) {
    for (let y = Math.ceil(py - half); y <= py + half; y++)
      for (let x = Math.ceil(px - half); x <= px + half; x++) covered.add(y * side + x);
  }
  return [...covered];
}

/** What was left of a line where its curve does not follow to the end: thin, and where the line goes on. */
function isLeftAhead(
  { side, umPerPx }: FlatFace,
  spot: Spot,
  lines: readonly MeasuredLine[],
  settings: FaceSettings,
): boolean {
  const { x, y, size } = circleOf(spot, side);
  const tail = TAIL_UM / umPerPx;
  const um = ([px, py]: readonly [number, number]): readonly [number, number] => [px * umPerPx, py * umPerPx];
  return lines.some((line) => {
    if (line.sign !== spot.sign || line.length < 1.5 * size) return false;
    if (spot.pixels.length > settings.ahead.thinArea * (line.width + 2 * line.blur) * size) return false;
    const isLong = spot.pixels.length < settings.ahead.roundFrom * size * size;
    const reachUm = isLong ? settings.ahead.reachUm : settings.ahead.roundReachUm;
    return endsOf(line.points, tail).some(({ at, way }) =>
      liesAhead({ at: um(at), way }, um([x, y]), settings, reachUm),
    );
  });
}
const TAIL_UM = 8;

/** On the ferrule a short, straight, even spot, several times longer than wide, is a scratch. */
function barOf(face: FlatFace, spot: Spot, blurPx: number, settings: FaceSettings): MeasuredLine | null {
  const { side } = face;
  const { pixels } = spot;
  // On the glass lines are looked for, and what is left there is lint or a piece of a crack.
  if (isGlass(face)) return null;
  const { length, width } = elongation(pixels, side);
  if (length < settings.features.barElongation * width) return null;
  if (pixels.length < settings.features.barFilled * length * width) return null;
  const blur = Math.hypot(blurPx, FINE);
  const { x, y, ux, uy } = axisOf(pixels.map((i) => [i % side, Math.floor(i / side)] as const));
  const points = Array.from({ length: Math.max(2, Math.round(length)) }, (_, k) => {
    const s = k - (length - 1) / 2;
    return [x + s * ux, y + s * uy] as const;
  });
  // A bar is seen as wide as it is, but for one that the blur is wider than.
  const across = Math.max(0.5, Math.sqrt(Math.max(0.25, width * width - blur * blur)));
  return { pixels, points, length, width: across, height: spot.peak, sign: spot.sign, blur };
}

function farthestIn({ inside, distance }: FlatFace): number {
  let most = 0;
  for (let i = 0; i < inside.length; i++) if (inside[i] && distance[i]! > most) most = distance[i]!;
  return most;
}

/** Neither bent as only lint is, nor along the rim, where glass has chipped off. */
function isScratch(face: FlatFace, line: MeasuredLine, settings: FaceSettings): boolean {
  const { points, length } = line;
  const { umPerPx } = face;
  const end = Math.max(3, Math.round(points.length / 6));
  const way = (a: number, b: number): number =>
    Math.atan2(points[b]![1] - points[a]![1], points[b]![0] - points[a]![0]);
  if (points.length > 8) {
    const turned = Math.abs(way(0, end) - way(points.length - 1 - end, points.length - 1));
    const turn = Math.min(turned, 2 * Math.PI - turned);
    const isLong = length * umPerPx > settings.features.bendSeenFromUm;
    if (isLong && (length - end) * umPerPx < settings.features.leastBendUm * turn) return false;
  }
  const nearest = Math.min(...line.pixels.map((i) => face.distance[i]!)) * umPerPx;
  return nearest < GLASS_UM - settings.features.rimUm || nearest > GLASS_UM;
}
const GLASS_UM = 62.5;

/** Surely none of a line: compact, or thicker than any of them. */
function isPlain(spot: Spot, side: number, settings: FaceSettings): boolean {
  const { pixels } = spot;
  if (pixels.length < settings.features.plainPx) return false;
  const { size } = circleOf(spot, side);
  return size ** 2 <= 3 * pixels.length || pixels.length > settings.features.thickPx * size;
}

function keepOff(free: Uint8Array, side: number, { pixels }: Spot, settings: FaceSettings): void {
  for (const i of pixels) {
    for (let dy = -settings.features.keepOffPx; dy <= settings.features.keepOffPx; dy += 3) {
      for (let dx = -settings.features.keepOffPx; dx <= settings.features.keepOffPx; dx += 3) {
        const at = i + dy * side + dx;
        if (at >= 0 && at < free.length) free[at] = 0;
      }
    }
  }
}

/** The lines without those short ones that are pieces of something larger and jagged, as of a crack. */
function withoutCracks(
  lines: readonly MeasuredLine[],
  ground: SpotGround,
  settings: FaceSettings,
): readonly MeasuredLine[] {
  const { side } = ground.face;
  const onLong = marked(
    lines.filter((line) => line.length > settings.features.longestCrackPiecePx),
    ground.fine.length,
    side,
  );
  return lines.filter((line) => {
    if (line.length > settings.features.longestCrackPiecePx) return true;
    const onLines = onLong.slice();
    markLine(onLines, side, line);
    const highest = line.pixels.reduce((a, b) =>
      line.sign * ground.fine[b]! > line.sign * ground.fine[a]! ? b : a,
    );
    const spot = growSpot(ground, highest, new Uint8Array(onLines.length), settings);
    return !spot || shareOn(spot, onLines) > settings.features.madeOfLines;
  });
}

function marked(lines: readonly MeasuredLine[], length: number, side: number): Uint8Array {
  const on = new Uint8Array(length);
  for (const line of lines) markLine(on, side, line);
  return on;
}

const shareOn = ({ pixels }: Spot, on: Uint8Array): number =>
  pixels.filter((i) => on[i]).length / pixels.length;

function markLine(on: Uint8Array, side: number, { points, width }: MeasuredLine): void {
  const reach = Math.ceil(width / 2 + 1.5);
  for (const [px, py] of points) {
    for (let y = Math.max(0, Math.round(py) - reach); y <= Math.min(side - 1, py + reach); y++) {
      for (let x = Math.max(0, Math.round(px) - reach); x <= Math.min(side - 1, px + reach); x++)
        on[y * side + x] = 1;
    }
  }
}

function shortLine(
  face: FlatFace,
  spot: Spot,
  blurPx: number,
  spread: number,
  settings: FaceSettings,
): MeasuredLine | null {
  const { length, width } = elongation(spot.pixels, face.side);
  if (length < settings.features.shortLineElongation * width) return null;
  const line = { pixels: spot.pixels, length, width, height: spot.peak, sign: spot.sign };
  // As short as its stretches allow.
  const found = measureLine(face, line, blurPx, spread, 0, settings);
  if (!found) return null;
  return shareOn(spot, marked([found], face.level.length, face.side)) > settings.features.madeOfShortLine
    ? found
    : null;
}

function defectOf(ground: SpotGround, spot: Spot, blurPx: number, settings: FaceSettings): FoundFeature {
  const { face, spread } = ground;
  const { side, distance } = face;
  const { x, y, size: seen } = outlineCircle(ground, spot);
  const size = sizeOf(ground, spot, x, y, seen, Math.hypot(blurPx, FINE), settings);
  let nearest = Infinity;
  let farthest = 0;
  for (const i of spot.pixels) {
    nearest = Math.min(nearest, distance[i]!);
    farthest = Math.max(farthest, distance[i]!);
  }
  return {
    kind: 'defect',
    x,
    y,
    size,
    length: size,
    area: spot.pixels.length,
    contrast: spot.peak / spread,
    nearest: Math.max(0, nearest - 0.5),
    farthest: farthest + 0.5,
    points: edgeOf(spot, side).map((i) => [i % side, Math.floor(i / side)] as const),
  };
}

/** Diameter of a spot with what the blur did to it taken back: it widens what is small, and cuts the corners of what is not. */
function sizeOf(
  ground: SpotGround,
  spot: Spot,
  x: number,
  y: number,
  seen: number,
  blur: number,
  settings: FaceSettings,
): number {
  if (!isPlainlySeen(seen, blur)) {
    const width = halfHeightWidth(ground.fine, ground.face.side, x, y, spot.sign, seen);
    if (width && width.across < 1.3 * seen) {
      // What the blur rounds off has no shape of its own; what is larger has.
      const shaped = Math.max(0, Math.min(1, width.wide / blur - settings.features.shapedFromBlurs));
      const seenAs = (1 - shaped) * width.wide + shaped * width.across;
      return diameterBehindBlur(seenAs, blur) + shaped * settings.features.roundedOff * blur;
    }
  }
  return seen + lostAtCorners(ground, spot, seen, blur, settings);
}

const contrastOf = (line: MeasuredLine, spread: number): number =>
  (line.height * barAt(0, line.width, line.blur)) / spread;

function scratchOf(face: FlatFace, line: MeasuredLine, spread: number): FoundFeature {
  const middle = line.points[line.points.length >> 1]!;
  const distances = line.pixels.map((i) => face.distance[i]!);
  return {
    kind: 'scratch',
    x: middle[0],
    y: middle[1],
    size: line.width,
    length: line.length,
    area: line.width * line.length,
    contrast: contrastOf(line, spread),
    nearest: Math.max(0, Math.min(...distances) - line.width / 2),
    farthest: Math.max(...distances) + line.width / 2,
    points: line.points,
  };
}
