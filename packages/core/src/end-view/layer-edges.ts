import { besideOf, biggestChange } from './beside-cable.ts';
import type { CablePath } from './cable-path.ts';
import { BUFFER_RADIUS_MM } from './cable-way.ts';
import type { EndStrip } from './end-strip.ts';
import { fineEdge, type LayerEdge } from './fine-edge.ts';
import { followThin } from './follow-thin.ts';
import { type ThinEdges, thinEdges } from './thin-edges.ts';

/** Where the layers of a prepared end begin, seen from its tip. Null for a layer that is not there or not seen. */
export interface LayerEdges {
  readonly tip: LayerEdge;
  readonly glass: LayerEdge | null;
  readonly buffer: LayerEdge | null;
  readonly jacket: LayerEdge | null;
  readonly jacketWidthMm: number | null;
  /** How far the axis of the cable stands off the paper. */
  readonly radiusMm: number;
  /** Whether the thin fiber is seen well enough to say where it ends. */
  readonly isTipSeen: boolean;
}

/** Rows beside a buffer in which only a jacket lies, and beside a coating in which only a buffer does, mm from the middle. */
const BESIDE_BUFFER = 0.56;
const BESIDE_COATING = [0.22, 0.42] as const;
const SD_MM = { jacket: 0.07, buffer: 0.06, thin: 0.07 };
/** A layer goes on for so many mm at least behind its edge, and paper before it. */
const GOES_ON_MM = 1.5;
/** So far from where a path says it begins a jacket does begin: yarn over the buffer may be taken for one, mm. */
const BEFORE_JACKET_MM = 3;
const BEYOND_YARN_MM = 30;

/**
 * Finds the layers of the end that a followed cable shows. `leanAt` says how far sideways the ray to the eye goes for each mm of height, by column. Null
 * where no thick part ends.
 */
export function layerEdges(
  strip: EndStrip,
  path: CablePath,
  leanAt: (column: number) => number,
): (LayerEdges & { readonly middle: Float32Array }) | null {
  const { perMm } = strip;
  const first = path.thin ?? path.buffer ?? path.jacket ?? 0;
  const begin = Math.max(0, first - 3 * perMm);
  const jacket =
    path.jacket === null || path.jacketMm === null
      ? null
      : edgeOfLayer(strip, path.middle, {
          from: Math.max(begin, path.jacket - BEFORE_JACKET_MM * perMm),
          to: Math.min(path.last, path.jacket + BEYOND_YARN_MM * perMm),
          band: [BESIDE_BUFFER, Math.max(BESIDE_BUFFER + 0.15, path.jacketMm / 2 - 0.12)],
          radiusMm: path.jacketMm / 2,
          byPath: path.jacket,
          leanAt,
        });
  const buffer =
    path.buffer === null
      ? null
      : edgeOfLayer(strip, path.middle, {
          from: begin,
          to: (jacket?.column ?? path.jacket ?? path.last) - 0.4 * perMm,
          band: BESIDE_COATING,
          radiusMm: BUFFER_RADIUS_MM,
          byPath: path.buffer,
          leanAt,
        });
  const thinFrom = buffer?.column ?? (jacket === null ? null : jacket.column - 0.5 * perMm);
  if (thinFrom === null) return null;
  const { middle, thin } = thinPart(strip, path, thinFrom, buffer?.rival ?? null);
  const blur = 0.3 / perMm;
  const edge = (column: number, ...sds: number[]): LayerEdge => ({ column, sdMm: Math.hypot(blur, ...sds) });
  return {
    middle,
    tip: thin ? edge(thin.tip, SD_MM.thin, thin.sdMm) : { column: thinFrom, sdMm: 0.5 },
    glass: thin === null || thin.glass === null ? null : edge(thin.glass, SD_MM.thin, thin.glassSdMm),
    buffer: buffer?.rival === null ? edge(buffer.column, SD_MM.buffer, buffer.sdMm) : null,
    jacket: jacket?.rival === null ? edge(jacket.column, SD_MM.jacket, jacket.sdMm) : null,
    jacketWidthMm: path.jacketMm,
    radiusMm: path.jacketMm === null ? BUFFER_RADIUS_MM : path.jacketMm / 2,
    isTipSeen: thin !== null,
  };
}

/** The thin fiber from where it comes out. Where it may come out elsewhere too only that is seen of it which is the same from there. */
function thinPart(
  strip: EndStrip,
  path: CablePath,
  from: number,
  rival: number | null,
): { readonly middle: Float32Array; readonly thin: PartSeen | null } {
  const middle = followThin(strip, path, from);
  const thin = thinEdges(strip, middle, from);
  if (rival === null || thin === null) return { middle, thin };
  const other = thinEdges(strip, followThin(strip, path, rival), rival);
  const isSame = (one: number, two: number): boolean => Math.abs(one - two) < SAME_MM * strip.perMm;
  if (other === null || !isSame(other.tip, thin.tip)) return { middle, thin: null };
  return { middle, thin: { ...thin, glass: isSame(other.glass, thin.glass) ? thin.glass : null } };
}
const SAME_MM = 0.4;
/** What is seen of a thin fiber; the end of its coating only where it is certain. */
type PartSeen = Omit<ThinEdges, 'glass'> & { readonly glass: number | null };

interface Sought {
  readonly from: number;
  readonly to: number;
  /** Rows that are read on both sides, mm from the middle. */
  readonly band: readonly [near: number, far: number];
  readonly radiusMm: number;
  /** Where the path says that the layer begins. */
  readonly byPath: number;
  readonly leanAt: (column: number) => number;
}
/** Where a layer begins within some columns: where what lies beside the middle changes most, then to a part of a column. */
function edgeOfLayer(strip: EndStrip, middle: Float32Array, sought: Sought): FoundEdge | null {
  const { perMm } = strip;
  const { from, to, band, radiusMm, byPath, leanAt } = sought;
  const every = Math.max(1, Math.round(0.1 * perMm));
  const coarse = besideOf(
    strip,
    middle,
    Math.round(from),
    Math.floor(to),
    every,
    band,
    Math.min(perMm, COARSE_LINES),
  );
  const change = biggestChange(coarse, Math.round((GOES_ON_MM * perMm) / every));
  if (change === null) return null;
  const near = Math.round(from) + change.at * every;
  const edge = fineEdge(strip, middle, near, band, radiusMm, Math.abs(leanAt(near)));
  // Two ways to tell it that agree are enough.
  const isSure = change.rival === null || Math.abs(near - byPath) < AGREES_MM * perMm;
  return {
    ...(edge ?? { column: near, sdMm: UNSURE_MM }),
    rival: isSure ? null : Math.round(from) + change.rival! * every,
  };
}
/** Lines a mm beside the middle are enough to see about where it is. */
const COARSE_LINES = 10;
/** Where an edge is not found line by line it is known to so much. */
const UNSURE_MM = 0.3;
/** A place that changes most and the path's own are the same within this, mm. */
const AGREES_MM = 0.5;
/** An edge, and the column of another place that changes nearly as much, if there is one. */
interface FoundEdge extends LayerEdge {
  readonly rival: number | null;
}
