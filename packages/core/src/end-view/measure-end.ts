import { middleOf } from '../faces/pixels/quantile.ts';
import type { PicturePlace } from '../side-view/picture-scale.ts';
import { eyeOf, project } from './camera.ts';
import type { CameraCard } from './camera-card.ts';
import { printScale } from './card-outline.ts';
import { type CardPose, type PoseRefusal, poseOf } from './card-pose.ts';
import { checkColour, type ColourImage } from './colour-image.ts';
import { type EndStrip, endStrip, onCard } from './end-strip.ts';
import { findCable } from './cable-path.ts';
import type { LayerEdge } from './fine-edge.ts';
import { layerEdges } from './layer-edges.ts';

/** Why a photograph shows no end on a card that can be measured. */
export const END_REFUSALS = [
  'few_marks',
  'mirrored',
  'other_card',
  'bent',
  'blurred',
  'print_scale',
  'glare',
  'no_cable',
  'two_cables',
  'no_layers',
] as const;
export type EndRefusal = (typeof END_REFUSALS)[number];

/** What a length to the end of the glass is counted from. */
export const END_LAYERS = ['jacket', 'buffer', 'glass'] as const;
export type EndLayer = (typeof END_LAYERS)[number];

/** A place on the middle of the cable in the photograph, and how far along it from the tip, mm. */
export interface PathPlace extends PicturePlace {
  readonly mm: number;
}

/** One line of the budget of a length, mm: standard uncertainties (JCGM 100). */
export interface LengthBudget {
  readonly edges: number;
  readonly marks: number;
  readonly print: number;
  readonly height: number;
  readonly curvature: number;
}
/** A length along the cable to the end of the glass, mm. */
export interface EndLength {
  readonly mm: number;
  readonly sdMm: number;
  readonly budget: LengthBudget;
}
/** Where something of an end is seen in the photograph: a line across it. */
export interface SeenEdge {
  readonly of: 'tip' | 'glass' | 'buffer' | 'jacket';
  readonly line: readonly [PicturePlace, PicturePlace];
}
export interface MeasuredEnd {
  readonly ok: true;
  /** From the jacket's edge, the buffer's and the coating's to the end of the glass; null where a layer is not there or not seen. */
  readonly jacket: EndLength | null;
  readonly buffer: EndLength | null;
  readonly glass: EndLength | null;
  readonly jacketDiameter: { readonly mm: number; readonly sdMm: number } | null;
  readonly print: { readonly scale: number; readonly sd: number };
  readonly pxPerMm: number;
  readonly seen: readonly SeenEdge[];
  /** The middle of the cable from the tip on, and the outline of the card, for drawing. */
  readonly path: readonly PathPlace[];
  readonly outline: readonly PicturePlace[];
}
export type EndReading = MeasuredEnd | { readonly ok: false; readonly reason: EndRefusal };

/** A print that is off by this share or more is refused: between what is allowed and 1.5 %. */
const MOST_PRINT = 0.0135;
/** Share of the places near the axis that are brighter than paper and over so many mm, from which it is glare. */
const GLARE = { share: 0.35, mm: 2.5 };
/** The end stands off the paper by the radius of its cable, and that is known to this share of it. */
const HEIGHT_KNOWN = 0.25;
/** Of a length that is measured along a curve this share is left open. */
const CURVE = 0.15;

/**
 * Measures a prepared end in a colour photograph of it on its card: where jacket, buffer, coating and glass end along the cable, with a budget for each
 * length. Says why where it cannot. Error: `face.bad_image`.
 */
export function measureEnd(image: ColourImage, card: CameraCard): EndReading {
  checkColour(image);
  const pose = poseOf(image, card);
  if (typeof pose === 'string') return { ok: false, reason: pose satisfies PoseRefusal };
  const print = printScale(image, pose.camera, card);
  if (Math.abs(print.scale - 1) > MOST_PRINT) return { ok: false, reason: 'print_scale' };
  const seen = endStrip(image, pose.camera, card, pose.pxPerMm);
  // Anywhere along the axis: under it the fiber may go on.
  if (hasGlare(seen)) return { ok: false, reason: 'glare' };
  const found = findCable(seen);
  if (typeof found === 'string') return { ok: false, reason: found };
  const { path, strip } = found;
  const eye = eyeOf(pose.camera);
  const leanAt = (column: number): number => (eye[0] - onCard(strip, column, 0).xMm) / Math.abs(eye[2]);
  const layers = layerEdges(strip, path, leanAt);
  if (!layers) return { ok: false, reason: 'no_layers' };
  const way = new Way(strip, layers.middle, pose, layers.radiusMm);
  // Where the end of the glass is not seen nothing is said of what is counted from it.
  const tip = layers.isTipSeen ? layers.tip : null;
  const length = (edge: LayerEdge | null): EndLength | null => tip && edge && way.length(tip, edge, print);
  const across = (of: SeenEdge['of'], edge: LayerEdge | null, halfMm: number): SeenEdge[] =>
    edge ? [{ of, line: way.across(edge.column, halfMm) }] : [];
  const { jacketWidthMm } = layers;
  return {
    ok: true,
    jacket: length(layers.jacket),
    buffer: length(layers.buffer),
    glass: length(layers.glass),
    jacketDiameter: jacketWidthMm === null ? null : way.diameter(jacketWidthMm, print.scale),
    print,
    pxPerMm: pose.pxPerMm,
    seen: [
      ...across('tip', tip, 1.5),
      ...across('glass', layers.glass, 1.5),
      ...across('buffer', layers.buffer, 2),
      ...across('jacket', layers.jacket, 3),
    ],
    path: way.path(layers.tip.column, print.scale),
    outline: [
      [0, 0],
      [card.widthMm, 0],
      [card.widthMm, card.heightMm],
      [0, card.heightMm],
    ].map(([x, y]) => project(pose.camera, [x!, y!, 0])),
  };
}

function hasGlare({ glaring, perMm, columns }: EndStrip): boolean {
  const border = Math.round(2 * perMm);
  let run = 0;
  for (let k = border; k < columns - border; k++) {
    run = glaring[k]! > GLARE.share ? run + 1 : 0;
    if (run > GLARE.mm * perMm) return true;
  }
  return false;
}

/** The way along the middle of a cable, on the card and above it. */
class Way {
  private readonly eye: readonly [number, number, number];
  private readonly rows: Float32Array;
  constructor(
    private readonly strip: EndStrip,
    middle: Float32Array,
    private readonly pose: CardPose,
    private readonly aboveMm: number,
  ) {
    this.eye = eyeOf(pose.camera);
    this.rows = smoothed(middle, Math.round(2 * strip.perMm));
  }

  /** What is seen at a column lies above the paper: along the ray to the eye, so far up. */
  private place(column: number): { readonly x: number; readonly y: number } {
    const k = Math.max(0, Math.min(this.rows.length - 1, Math.round(column)));
    const { xMm, yMm } = onCard(this.strip, column, this.rows[k]!);
    const up = this.aboveMm / Math.abs(this.eye[2]);
    return { x: xMm + (this.eye[0] - xMm) * up, y: yMm + (this.eye[1] - yMm) * up };
  }
  private lean(column: number): number {
    const { xMm } = onCard(this.strip, column, this.rows[0]!);
    return (this.eye[0] - xMm) / Math.abs(this.eye[2]);
  }

  length(tip: LayerEdge, edge: LayerEdge, print: { readonly scale: number; readonly sd: number }): EndLength {
    const step = Math.max(1, Math.round(2 * this.strip.perMm));
    let sum = 0;
    let last = this.place(tip.column);
    const begin = last;
    for (let k = tip.column + step; ; k += step) {
      const now = this.place(Math.min(k, edge.column));
      sum += Math.hypot(now.x - last.x, now.y - last.y);
      last = now;
      if (k >= edge.column) break;
    }
    const straight = Math.hypot(last.x - begin.x, last.y - begin.y);
    const mm = sum * print.scale;
    const height = HEIGHT_KNOWN * this.aboveMm;
    const budget: LengthBudget = {
      edges: Math.hypot(tip.sdMm, edge.sdMm),
      marks: (2 * this.pose.offMm) / Math.sqrt(this.pose.sightings.length),
      print: mm * print.sd,
      // Both ends stand off the paper each by itself.
      height: height * Math.hypot(this.lean(tip.column), this.lean(edge.column)),
      curvature: CURVE * (sum - straight),
    };
    return { mm, budget, sdMm: Math.hypot(...Object.values(budget)) };
  }

  diameter(seenMm: number, scale: number): { readonly mm: number; readonly sdMm: number } {
    // Its widest part stands off the paper by its radius and is nearer to the eye by that.
    const mm = seenMm * scale * (1 - this.aboveMm / Math.abs(this.eye[2]));
    return { mm, sdMm: Math.hypot(0.5 / this.pose.pxPerMm, 0.05) };
  }

  private seenAt(column: number, besideMm: number): PicturePlace {
    const k = Math.max(0, Math.min(this.rows.length - 1, Math.round(column)));
    const { xMm, yMm } = onCard(this.strip, column, this.rows[k]! + besideMm * this.strip.perMm);
    return project(this.pose.camera, [xMm, yMm, 0]);
  }
  across(column: number, halfMm: number): readonly [PicturePlace, PicturePlace] {
    return [this.seenAt(column, -halfMm), this.seenAt(column, halfMm)];
  }
  path(from: number, scale: number): PathPlace[] {
    const step = 2 * this.strip.perMm;
    const places: PathPlace[] = [];
    let mm = 0;
    let last = this.place(from);
    for (let k = from; k < this.strip.columns; k += step) {
      const now = this.place(k);
      mm += Math.hypot(now.x - last.x, now.y - last.y) * scale;
      last = now;
      places.push({ ...this.seenAt(k, 0), mm });
    }
    return places;
  }
}

/** How far along a path the place of it lies that is nearest to a place of the picture, mm. */
export function mmAlong(path: readonly PathPlace[], to: PicturePlace): number {
  let best = { off: Infinity, mm: 0 };
  for (let i = 1; i < path.length; i++) {
    const a = path[i - 1]!;
    const b = path[i]!;
    const dx = b.x - a.x;
    const dy = b.y - a.y;
    const t = Math.max(0, Math.min(1, ((to.x - a.x) * dx + (to.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
    const off = Math.hypot(a.x + t * dx - to.x, a.y + t * dy - to.y);
    if (off < best.off) best = { off, mm: a.mm + t * (b.mm - a.mm) };
  }
  return best.mm;
}
/** The place of a path that lies so many mm from the tip. */
export function placeAlong(path: readonly PathPlace[], mm: number): PicturePlace {
  const i = path.findIndex((p) => p.mm >= mm);
  if (i <= 0) return i === 0 ? path[0]! : path.at(-1)!;
  const a = path[i - 1]!;
  const b = path[i]!;
  const t = (mm - a.mm) / (b.mm - a.mm || 1);
  return { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t };
}

function smoothed(values: Float32Array, reach: number): Float32Array {
  const step = Math.max(1, Math.round(reach / 8));
  return values.map((_, k) => {
    const near: number[] = [];
    for (let j = k - reach; j <= k + reach; j += step) if (j >= 0 && j < values.length) near.push(values[j]!);
    return near.length < 3
      ? values[k]!
      : (middleOf(Float32Array.from(near)) + near.reduce((a, b) => a + b, 0) / near.length) / 2;
  });
}
