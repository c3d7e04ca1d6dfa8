import type { FaceSettings } from './settings.ts';
import { enclosingCircle } from './pixels/enclosing-circle.ts';
import { hullOf } from './pixels/hull.ts';
import { endsOf, faceEachOther, liesAhead } from './lines/line-ends.ts';
import type { MeasuredFeature } from './measured-feature.ts';

type Point = readonly [x: number, y: number];

/** The direction of an end is that of so much of the line, um. */
const TAIL_UM = 8;

/**
 * What was found on the glass and on the ferrule, made one where it goes on across the rim: scratches whose ends face each
 * other, defects that touch it on both sides, and small pieces of the ferrule that lie where a scratch of the glass goes on.
 * `rimUm` is the width of what lies between the two searches. Positions in um from the fiber's centre.
 */
export function joinAcrossRim(
  glass: readonly MeasuredFeature[],
  ferrule: readonly MeasuredFeature[],
  rimUm: number,
  settings: FaceSettings,
): readonly MeasuredFeature[] {
  const rest = [...ferrule];
  const joined = glass.map((one): MeasuredFeature => {
    let all = one;
    for (let k = 0; k < rest.length; k++) {
      const other = rest[k]!;
      const made =
        one.kind === 'scratch'
          ? scratchGoingOn(all, other, rimUm, settings)
          : touchAcross(all, other, rimUm, settings);
      if (!made) continue;
      all = made;
      rest.splice(k, 1);
      k = -1;
    }
    return all;
  });
  return [...joined, ...rest];
}

function scratchGoingOn(
  a: MeasuredFeature,
  b: MeasuredFeature,
  rimUm: number,
  settings: FaceSettings,
): MeasuredFeature | null {
  const ends = endsOf(a.outlineUm, TAIL_UM);
  if (b.kind === 'defect') {
    const thin = b.areaUm2 < settings.ahead.thinArea * Math.max(1, a.sizeUm) * b.sizeUm;
    // What is round is none of a line but where it touches its end.
    const isLong = b.areaUm2 < settings.ahead.roundFrom * b.sizeUm ** 2;
    const reachUm = isLong ? settings.ahead.reachUm : rimUm + settings.ahead.roundReachUm;
    return thin && ends.some((end) => liesAhead(end, [b.xUm, b.yUm], settings, reachUm)) ? a : null;
  }
  if (Math.max(a.sizeUm, b.sizeUm) > settings.ahead.alike * Math.min(a.sizeUm, b.sizeUm) + 1) return null;
  for (const [i, end] of ends.entries()) {
    for (const [j, start] of endsOf(b.outlineUm, TAIL_UM).entries()) {
      if (!faceEachOther(end, start, settings)) continue;
      const first = i === 1 ? a.outlineUm : [...a.outlineUm].reverse();
      const second = j === 0 ? b.outlineUm : [...b.outlineUm].reverse();
      return asOne(a, b, [...first, ...second]);
    }
  }
  return null;
}

function asOne(a: MeasuredFeature, b: MeasuredFeature, outlineUm: readonly Point[]): MeasuredFeature {
  const lengthUm = (a.lengthUm ?? 0) + (b.lengthUm ?? 0);
  const share = (a.lengthUm ?? 0) / Math.max(1e-9, lengthUm);
  const sizeUm = share * a.sizeUm + (1 - share) * b.sizeUm;
  const [xUm, yUm] = outlineUm[outlineUm.length >> 1]!;
  return {
    ...a,
    sizeUm,
    xUm,
    yUm,
    lengthUm,
    nearestUm: Math.min(a.nearestUm, b.nearestUm),
    farthestUm: Math.max(a.farthestUm, b.farthestUm),
    areaUm2: a.areaUm2 + b.areaUm2,
    uncertaintyUm: Math.max(a.uncertaintyUm, b.uncertaintyUm),
    contrast: share * a.contrast + (1 - share) * b.contrast,
    outlineUm,
  };
}

/** One defect where two nearly touch the rim from its two sides at the same place. */
function touchAcross(
  a: MeasuredFeature,
  b: MeasuredFeature,
  rimUm: number,
  settings: FaceSettings,
): MeasuredFeature | null {
  if (b.kind !== 'defect' || b.nearestUm - a.farthestUm > rimUm + settings.ahead.touchUm) return null;
  const gap = rimUm + settings.ahead.touchUm;
  const near = a.outlineUm.some(([x, y]) => b.outlineUm.some(([p, q]) => Math.hypot(x - p, y - q) < gap));
  if (!near) return null;
  const outlineUm = [...a.outlineUm, ...b.outlineUm];
  const circle = enclosingCircle(hullOf(outlineUm))!;
  return {
    ...a,
    sizeUm: Math.max(a.sizeUm, b.sizeUm, 2 * circle.r),
    xUm: circle.x,
    yUm: circle.y,
    nearestUm: Math.min(a.nearestUm, b.nearestUm),
    farthestUm: Math.max(a.farthestUm, b.farthestUm),
    areaUm2: a.areaUm2 + b.areaUm2,
    contrast: Math.max(a.contrast, b.contrast),
    outlineUm,
  };
}
