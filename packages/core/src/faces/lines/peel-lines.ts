import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import type { MeasuredLine } from './found-line.ts';
import { barAt } from '../pixels/line-profile.ts';

type Point = readonly [x: number, y: number];

/** What is left of a face when its lines are taken out, and how much a line could have left behind at each pixel. */
export interface PeeledFace extends FlatFace {
  /** Share of a line's height that its unevenness may leave; levels, 0 where no line lies. */
  readonly doubt: Float32Array;
}

/**
 * Takes measured lines out of a flattened face: at each pixel beside a line the blurred bar that was fitted to it. What
 * lies on a line, as a pit in a scratch, stays.
 */
export function peelLines(
  face: FlatFace,
  lines: readonly MeasuredLine[],
  settings: FaceSettings,
): PeeledFace {
  const { side } = face;
  const level = face.level.slice();
  const doubt = face.doubt?.slice() ?? new Float32Array(level.length);
  for (const line of lines) {
    const reach = Math.ceil(line.width / 2 + 3 * line.blur + 1);
    const barOf = (d: number): number => line.height * barAt(d, line.width, line.blur);
    for (const [i, d] of distances(line.points, side, reach)) {
      level[i]! -= line.sign * barOf(d);
      doubt[i] = Math.max(doubt[i]!, settings.peel.heightVaries * barOf(d));
    }
    for (const [i, d] of distances(beyond(line, face, settings), side, reach)) {
      doubt[i] = Math.max(doubt[i]!, settings.peel.goesOnAtEnds * barOf(d));
    }
  }
  return { ...face, level, doubt };
}

/** The ends of a line carried on straight: a little, or to the rim where that is near, since lines cross it. */
function beyond(
  { points, width }: MeasuredLine,
  { side, inside }: FlatFace,
  settings: FaceSettings,
): Point[] {
  const on: Point[] = [];
  const carry = ([x, y]: Point, [fromX, fromY]: Point): void => {
    const d = Math.hypot(x - fromX, y - fromY) || 1;
    const ux = (x - fromX) / d;
    const uy = (y - fromY) / d;
    const isInside = (s: number): boolean =>
      inside[Math.round(y + s * uy) * side + Math.round(x + s * ux)] === 1;
    const least = settings.peel.beyondEndPx + width / 2;
    const far = isInside(settings.peel.toRimPx) ? least : Math.max(settings.peel.toRimPx, least);
    for (let s = 0; s <= far; s++) on.push([x + s * ux, y + s * uy]);
  };
  const inward = Math.min(points.length - 1, 8);
  carry(points[0]!, points[inward]!);
  carry(points[points.length - 1]!, points[points.length - 1 - inward]!);
  return on;
}

/** Pixels within reach of a line's points, each with its distance from them. */
function distances(points: readonly Point[], side: number, reach: number): Map<number, number> {
  const nearest = new Map<number, number>();
  for (const [px, py] of points) {
    const cx = Math.round(px);
    const cy = Math.round(py);
    for (let y = Math.max(0, cy - reach); y <= Math.min(side - 1, cy + reach); y++) {
      for (let x = Math.max(0, cx - reach); x <= Math.min(side - 1, cx + reach); x++) {
        const d = (x - px) * (x - px) + (y - py) * (y - py);
        if (d > reach * reach) continue;
        const i = y * side + x;
        if (d < (nearest.get(i) ?? Infinity)) nearest.set(i, d);
      }
    }
  }
  for (const [i, d] of nearest) nearest.set(i, Math.sqrt(d));
  return nearest;
}
