import { BLUR, bump, disc, faceOf, mark, SIDE, soft, together } from './cladding/faces-for-tests.ts';
import { findCladding } from './cladding/find-cladding.ts';
import { coreOf } from './cladding/find-core.ts';
import { RIM, slanting } from './cladding/grain-for-tests.ts';
import { isFace } from './cladding/is-face.ts';
import { spreadByDistance } from './cladding/smooth.ts';
import { findFeatures } from './find-features.ts';
import { compareFaces } from './grading/compare-faces.ts';
import { isSameLine } from './lines/find-lines.ts';
import type { FoundLine, MeasuredLine } from './lines/found-line.ts';
import { joinPieces } from './lines/join-pieces.ts';
import { measureLine } from './lines/measure-line.ts';
import { mergeLines } from './lines/merge-lines.ts';
import { peelLines } from './lines/peel-lines.ts';
import type { FaceSettings } from './settings.ts';
import { joinAcrossRim } from './join-across-rim.ts';
import type { MeasuredFeature } from './measured-feature.ts';
import { findSpots, flooded, joinThin, spotGround } from './spots/find-spots.ts';
import type { Spot } from './spots/spot.ts';

type Point = readonly [number, number];
/** What is found by the settings: a number or a short text. */
export type Case = (settings: FaceSettings) => string | number | boolean;

const WIDE = 400;
const along = ([x, y]: Point, deg: number, count: number): Point[] =>
  Array.from({ length: count }, (_, k): Point => {
    const t = (deg * Math.PI) / 180;
    return [x + k * Math.cos(t), y + k * Math.sin(t)];
  });
const measured = (points: readonly Point[], height = 20): MeasuredLine => ({
  points,
  pixels: points.map(([x, y]) => Math.round(y) * WIDE + Math.round(x)),
  length: points.length,
  width: 3,
  height,
  sign: -1,
  blur: BLUR,
});
const merged =
  (...lines: readonly MeasuredLine[]): Case =>
  (s) =>
    mergeLines(lines, s).length;
const long = measured(along([50, 200], 0, 200));
const turnedEnd = (deg: number, gap: number): MeasuredLine => {
  // The next line begins half-way between the two directions, as a bend goes.
  const half = ((deg / 2) * Math.PI) / 180;
  const start: Point = [149 + gap * Math.cos(half), 200 + gap * Math.sin(half)];
  return measured(along(start, deg, 100));
};
const first = measured(along([50, 200], 0, 100));

const found = (points: readonly Point[]): FoundLine => measured(points);
const joined =
  (...lines: readonly FoundLine[]): Case =>
  (s) =>
    joinPieces(lines, WIDE, s).length;

const rect = (x0: number, y0: number, width: number, height: number): Spot => ({
  pixels: Array.from(
    { length: width * height },
    (_, i) => (y0 + Math.floor(i / width)) * WIDE + x0 + (i % width),
  ),
  sign: -1,
  peak: 30,
});

const doubtOf = (end: number) => (s: FaceSettings) => {
  const face = faceOf(() => 0);
  const points = along([60, 100], 0, end - 60);
  const line = { ...measured(points), pixels: points.map(([x, y]) => y * SIDE + x) };
  return peelLines(face, [line], s).doubt;
};
const features =
  (...paints: Parameters<typeof faceOf>[0][]): Case =>
  (s) =>
    findFeatures(faceOf(together(...paints)), BLUR, s)
      .map((f) => `${f.kind} ${f.size.toFixed(1)}`)
      .join(', ');
const spotsOf =
  (paint: Parameters<typeof faceOf>[0], scales: readonly number[], seed = 7): Case =>
  (s) =>
    findSpots(spotGround(faceOf(paint, seed), s), scales, s)
      .map((spot) => spot.pixels.length)
      .join(', ');

/** A defect or a scratch in micrometres from the fiber's centre, along the x axis. */
const piece = (
  kind: 'scratch' | 'defect',
  from: number,
  to: number,
  more: Partial<MeasuredFeature> = {},
): MeasuredFeature => ({
  kind,
  sizeUm: kind === 'scratch' ? 2 : to - from,
  xUm: (from + to) / 2,
  yUm: 0,
  nearestUm: from,
  farthestUm: to,
  ...(kind === 'scratch' ? { lengthUm: to - from } : {}),
  uncertaintyUm: 0.3,
  areaUm2: kind === 'scratch' ? 2 * (to - from) : 0.785 * (to - from) ** 2,
  contrast: 10,
  outlineUm: Array.from({ length: 12 }, (_, k) => [from + (k / 11) * (to - from), 0] as const),
  ...more,
});
const acrossRim =
  (glass: MeasuredFeature, ferrule: MeasuredFeature): Case =>
  (s) =>
    joinAcrossRim([glass], [ferrule], 2, s).length;
const aside = (by: number, f: MeasuredFeature): MeasuredFeature => ({
  ...f,
  yUm: by,
  outlineUm: f.outlineUm.map(([x]) => [x, by] as const),
});

const EYE = { x: 150, y: 150, r: 80 };
const BLOCK = EYE.r / 6;
/** Glass of a level on a brighter ferrule, with what is added at a place from the fiber's middle. */
/** Glass as bright as its ferrule, whose rim shows on one side, beside grain. */
const inGrain =
  (grain: number): Case =>
  (s) =>
    isFace(slanting(2, grain, 20), RIM, 0, 1, s);
const eye =
  (more: (x: number, y: number) => number, glass = 200): Case =>
  (s) => {
    const data = Uint8Array.from({ length: 300 * 300 }, (_, i) => {
      const x = (i % 300) - 150;
      const y = Math.floor(i / 300) - 150;
      return glass + (Math.hypot(x, y) < EYE.r ? 0 : 35) + more(x, y);
    });
    return isFace({ width: 300, height: 300, data }, EYE, 0, 1, s);
  };
const within = (x: number, y: number, from: number, to: number): boolean => {
  const d = Math.hypot(x, y) / EYE.r;
  return d > from && d < to;
};
const chequered = (x: number, y: number): 1 | -1 =>
  (Math.floor(x / BLOCK) + Math.floor(y / BLOCK)) % 2 === 0 ? 1 : -1;
/** A line bent round a middle, from straight down to either side. */
const bow =
  (r: number, halfDeg: number) =>
  (x: number, y: number): number => {
    const t = (Math.atan2(x, y + r) * 180) / Math.PI;
    return Math.abs(t) > halfDeg ? 0 : -18 * soft(Math.hypot(x, y + r) - r, 3, BLUR);
  };
const featuresAt =
  (umPerPx: number, paint: Parameters<typeof faceOf>[0]): Case =>
  (s) =>
    findFeatures({ ...faceOf(paint), umPerPx }, BLUR, s)
      .map((f) => f.kind)
      .join(', ');
const coreClass =
  (radiusUm: number): Case =>
  (s) =>
    coreOf({ x: 0, y: 0, r: radiusUm, soft: 1, height: 20, fall: 0 }, 1, s).class;

/** For each threshold something that is found otherwise when it is raised by a third. */
export const CASES: Readonly<Record<string, Case>> = {
  'cladding.leastSeen': (s) => {
    // Over three tenths of the way round the glass cannot be told from the ferrule.
    const data = Uint8Array.from({ length: 300 * 300 }, (_, i) => {
      const x = (i % 300) - 150;
      const y = Math.floor(i / 300) - 150;
      const hidden = Math.abs(Math.atan2(y, x)) < 0.3 * Math.PI;
      return Math.hypot(x, y) < 100 || (hidden && Math.hypot(x, y) < 130) ? 130 : 165;
    });
    return findCladding({ width: 300, height: 300, data }, s).state;
  },
  'cladding.leastAlike': (s) => {
    // Over a quarter of the way round the glass goes on without an edge.
    const data = Uint8Array.from({ length: 300 * 300 }, (_, i) => {
      const x = (i % 300) - 150;
      const y = Math.floor(i / 300) - 150;
      const hidden = Math.abs(Math.atan2(y, x)) < 0.24 * Math.PI && Math.hypot(x, y) < 88;
      return Math.hypot(x, y) < EYE.r || hidden ? 200 : 235;
    });
    return isFace({ width: 300, height: 300, data }, EYE, 0, 1, s);
  },
  'cladding.alikeInGrain': inGrain(8),
  'cladding.grainTimes': inGrain(1.3),
  'cladding.mostRings': eye((x, y) => (within(x, y, 0.5, 0.96) ? 13 * Math.sin(Math.hypot(x, y) / 2.6) : 0)),
  'cladding.mostPatchy': eye((x, y) => (within(x, y, 0, 0.95) ? 5 * chequered(x, y) : 0)),
  'cladding.patchyFerrule': eye((x, y) => (within(x, y, 1.15, 3) ? 21 * chequered(x, y) : 0), 150),
  'core.betweenSingleAnd50Um': coreClass(16),
  'core.between50And62Um': coreClass(31.25),
  'features.leastBendUm': featuresAt(0.3, bow(205, 20)),
  'features.bendSeenFromUm': featuresAt(0.3, bow(62, 34)),
  'features.rimUm': featuresAt(0.658, mark(90, 26, 3, -20, [87.4, 0])),
  'spots.leastLevels': (s) => {
    const face = faceOf(disc(10, 5, 4, 90));
    const still = { ...face, level: face.level.map((v) => 0.02 * v) };
    return findSpots(spotGround(still, s), [2], s).length;
  },
  'ahead.backUm': acrossRim(piece('scratch', 20, 60), piece('scratch', 57.6, 90)),
  'ahead.turnedDeg': acrossRim(piece('scratch', 20, 60), {
    ...piece('scratch', 62, 90),
    outlineUm: Array.from({ length: 12 }, (_, k) => [62 + 2 * k, 1.4 * k] as const),
  }),
  'noise.nearCentrePx': (s) => {
    const face = faceOf((x, y) => (Math.hypot(x, y) > 12 ? 0 : (x + y) % 2 === 0 ? 12 : -12));
    return spreadByDistance(face.level, face, s)[9]!.toFixed(1);
  },
  'merge.apartPx': merged(first, measured(along([194, 200], 0, 100))),
  'merge.turnedDeg': merged(first, turnedEnd(33, 2)),
  'merge.asidePx': merged(first, measured(along([153, 205.5], 0, 100))),
  'merge.bendsDegPerPx': merged(first, turnedEnd(42, 35)),
  'merge.tailPx': merged(
    measured([
      ...along([50, 20], 90, 9).map(([x, y]): Point => [x, 20 + (y - 20) * 20]),
      ...along([51, 200], 0, 27),
    ]),
    measured(along([110, 200], 0, 36)),
  ),
  'merge.shortPx': merged(long, measured(along([110, 203], 0, 80))),
  'merge.besidePx': merged(long, measured(along([130, 208.5], 0, 40))),
  'merge.beyondPx': merged(long, measured(along([271, 200], 0, 20), 60)),
  'merge.alongDeg': merged(long, measured(along([132, 190], 30, 40))),
  'pieces.gapPx': joined(found(along([20, 200], 0, 100)), found(along([200, 200], 0, 60))),
  'pieces.asidePx': joined(found(along([20, 200], 0, 100)), found(along([125, 213], 0, 60))),
  'lines.shadowHeight': (s) =>
    isSameLine(
      measured(along([50, 200], 0, 100), 100),
      { ...measured(along([60, 202], 0, 60), 50), sign: 1 },
      WIDE,
      s,
    ),
  'line.leastHeight': (s) => {
    const face = faceOf(mark(30, 60, 3, 5), 9);
    const points = along([100 - 50, 100 - 29], 30, 116);
    const line = {
      ...measured(points),
      pixels: points.map(([x, y]) => Math.round(y) * SIDE + Math.round(x)),
      sign: 1,
    };
    return measureLine(face, line, BLUR, 2, 26, s) !== null;
  },
  'peel.goesOnAtEnds': (s) => Math.max(...doubtOf(140)(s)).toFixed(1),
  'peel.beyondEndPx': (s) => doubtOf(140)(s).filter((v) => v > 0).length,
  'peel.toRimPx': (s) => doubtOf(169)(s).filter((v) => v > 0).length,
  'spots.thinPx': (s) => joinThin([rect(50, 100, 60, 10), rect(112, 100, 60, 10)], WIDE, s).length,
  'spots.closePx': (s) => joinThin([rect(50, 100, 30, 1), rect(86, 100, 30, 1)], WIDE, s).length,
  'spots.mostPx': (s) => {
    const ground = {
      ...spotGround(
        faceOf(() => 0),
        s,
      ),
      fine: new Float32Array(90_000),
    };
    const face = { ...ground.face, side: 300, inside: new Uint8Array(90_000).fill(1) };
    return flooded({ ...ground, face }, [45_000], null, () => true, s).length;
  },
  'spots.leastPx': spotsOf((x, y) => (x >= 10 && x <= 11 && y >= 5 && y <= 6 ? 25 : 0), [1]),
  'spots.broadPx': spotsOf(disc(10, 5, 3.6, 5.5), [2], 9),
  'spots.seedAtRim': spotsOf(disc(93, 3, 2, 6.5), [2]),
  'features.thickPx': features(mark(20, 50, 16, 30), mark(20, 50, 2, 20, [0, 16])),
  'features.rimPx': features(disc(94, 0, 1, 80)),
  'features.pointContrast': features(bump(0.9, -14)),
  'features.faintPx': features(mark(30, 31, 1.5, 5)),
  'ahead.reachUm': acrossRim(piece('scratch', 20, 60), piece('scratch', 78, 100)),
  'ahead.asideUm': acrossRim(piece('scratch', 20, 60), aside(2.6, piece('scratch', 64, 90))),
  'ahead.bends': acrossRim(piece('scratch', 20, 60), aside(3.6, piece('scratch', 73, 100))),
  'ahead.alike': acrossRim(piece('scratch', 20, 60), piece('scratch', 64, 90, { sizeUm: 5.2 })),
  'ahead.touchUm': acrossRim(piece('defect', 55, 61), piece('defect', 64.8, 70)),
  'ahead.roundReachUm': acrossRim(piece('scratch', 20, 60), piece('defect', 66, 70)),
  'ahead.roundFrom': acrossRim(piece('scratch', 20, 60), piece('defect', 68, 74, { areaUm2: 20 })),
  'ahead.thinArea': acrossRim(piece('scratch', 20, 60), piece('defect', 61, 67.2)),
  'compare.apartUm': (s) => {
    const pit = (xUm: number) => ({
      kind: 'defect' as const,
      sizeUm: 2,
      xUm,
      yUm: 0,
      nearestUm: 0,
      farthestUm: 2,
    });
    return compareFaces([pit(10)], [pit(14)], s).stayed.length;
  },
};
