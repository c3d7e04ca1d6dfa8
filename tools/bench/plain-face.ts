import {
  type FaceCriteria,
  gradeFace,
  type GreyImage,
  type MeasuredFace,
  type MeasuredFeature,
} from '@clear-mark/core';
import { loadOpenCv } from './opencv-face.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the library comes without types that fit its build */

/** Sizes of its steps in um, and how many spreads of the noise a pixel stands out by. */
const STEPS = {
  claddingUm: 125,
  backgroundUm: 30,
  coreUm: 6,
  glassUm: 58.5,
  ferruleUm: [67, 125],
  spreads: 5,
  lineSpreads: 7,
  lineUm: 14,
  elongated: 5,
  leastPx: 4,
} as const;
const DIRECTIONS = 12;

/**
 * What a plain classical detector makes of a face, by a general-purpose library: the cladding by the gradient circle
 * transform, the background by a median, pixels that stand out by five spreads of the noise, lines by a filter of twelve
 * directions, the rest by connected pixels in their enclosing circle. A core is left out, not measured. It is the yardstick
 * beside which the engine is reported, on the same faces.
 */
export async function plainDetector(): Promise<(image: GreyImage, table: FaceCriteria) => MeasuredFace> {
  const { cv } = await loadOpenCv();
  return (image, table) => {
    const held: any[] = [];
    const keep = (mat: any): any => (held.push(mat), mat);
    try {
      return detect(cv, keep, image, table);
    } finally {
      for (const mat of held) mat.delete();
    }
  };
}

function detect(cv: any, keep: (mat: any) => any, image: GreyImage, table: FaceCriteria): MeasuredFace {
  const { width, height } = image;
  const grey = keep(cv.matFromArray(height, width, cv.CV_8UC1, image.data));
  const circle = circleOf(cv, keep, grey, width, height);
  if (!circle) return { ok: false, reason: 'no_face' };
  const umPerPx = STEPS.claddingUm / (2 * circle.r);
  const off = differenceOf(cv, keep, grey, umPerPx);
  const distance = (x: number, y: number): number => Math.hypot(x - circle.x, y - circle.y) * umPerPx;
  const isGlass = (d: number): boolean => d > STEPS.coreUm && d < STEPS.glassUm;
  const isFerrule = (d: number): boolean => d > STEPS.ferruleUm[0] && d < STEPS.ferruleUm[1];
  const lines = lineResponse(cv, keep, off, umPerPx);
  const offs = off.data32F as Float32Array;
  const responses = lines.data32F as Float32Array;
  const features: MeasuredFeature[] = [];
  for (const where of [isGlass, isFerrule]) {
    const inside = new Uint8Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) if (where(distance(x, y))) inside[i] = 1;
    const place = { width, height, circle, umPerPx };
    const noise = spreadIn(offs, inside);
    const taken = new Uint8Array(inside.length);
    for (const pixels of groups(
      cv,
      keep,
      marked(responses, inside, STEPS.lineSpreads * spreadIn(responses, inside)),
      place,
    )) {
      const line = asLine(pixels, offs, noise, place);
      if (!line) continue;
      features.push(line);
      for (const i of pixels) for (const d of [0, 1, -1, width, -width]) taken[i + d] = 1;
    }
    const rest = marked(offs, inside, STEPS.spreads * noise);
    for (let i = 0; i < rest.length; i++) if (taken[i]) rest[i] = 0;
    for (const pixels of groups(cv, keep, rest, place))
      features.push(asDefect(cv, pixels, offs, noise, place));
  }
  return {
    ok: true,
    umPerPx,
    centrePx: [circle.x, circle.y],
    claddingDiameterPx: 2 * circle.r,
    blurUm: 0,
    core: { class: 'unlit', radiusUm: null },
    contactSeen: 1,
    features,
    grade: gradeFace(features, table),
  };
}

interface Place {
  readonly width: number;
  readonly height: number;
  readonly circle: { readonly x: number; readonly y: number; readonly r: number };
  readonly umPerPx: number;
}

function circleOf(
  cv: any,
  keep: (mat: any) => any,
  grey: any,
  width: number,
  height: number,
): Place['circle'] | null {
  const soft = keep(new cv.Mat());
  cv.GaussianBlur(grey, soft, new cv.Size(5, 5), 1.2);
  const half = keep(new cv.Mat());
  cv.resize(soft, half, new cv.Size(width >> 1, height >> 1), 0, 0, cv.INTER_AREA);
  const circles = keep(new cv.Mat());
  const short = Math.min(width, height) / 2;
  cv.HoughCircles(half, circles, cv.HOUGH_GRADIENT, 1, short / 2, 80, 25, short * 0.12, short * 0.5);
  if (circles.cols === 0) return null;
  const [x, y, r] = circles.data32F as Float32Array;
  const found = { x: 2 * x! + 0.5, y: 2 * y! + 0.5, r: 2 * r! };
  return { ...found, r: steepest(grey.data as Uint8Array, width, height, found) };
}

/** The radius near that of a circle at which the mean level round its centre changes most. */
function steepest(data: Uint8Array, width: number, height: number, { x, y, r }: Place['circle']): number {
  const sums = new Float64Array(Math.ceil(1.2 * r) + 2);
  const counts = new Float64Array(sums.length);
  for (let py = 0; py < height; py++) {
    for (let px = 0; px < width; px++) {
      const d = Math.round(Math.hypot(px - x, py - y));
      if (d >= sums.length) continue;
      sums[d]! += data[py * width + px]!;
      counts[d]! += 1;
    }
  }
  const mean = (d: number): number => sums[d]! / Math.max(1, counts[d]!);
  let best = Math.round(r);
  for (let d = Math.ceil(0.93 * r); d <= 1.07 * r; d++)
    if (Math.abs(mean(d + 1) - mean(d - 1)) > Math.abs(mean(best + 1) - mean(best - 1))) best = d;
  return best;
}

/** The picture less its median background, levels. */
function differenceOf(cv: any, keep: (mat: any) => any, grey: any, umPerPx: number): any {
  const background = keep(new cv.Mat());
  cv.medianBlur(grey, background, 2 * Math.round(STEPS.backgroundUm / umPerPx / 2) + 1);
  const a = keep(new cv.Mat());
  const b = keep(new cv.Mat());
  const off = keep(new cv.Mat());
  grey.convertTo(a, cv.CV_32F);
  background.convertTo(b, cv.CV_32F);
  cv.subtract(a, b, off);
  cv.GaussianBlur(off, off, new cv.Size(5, 5), 1);
  return off;
}

/**
 * Of each pixel the strongest of the mean along a line less those beside it, over twelve directions; on a copy of half the
 * size, where it costs a sixteenth.
 */
function lineResponse(cv: any, keep: (mat: any) => any, off: any, umPerPx: number): any {
  const small = keep(new cv.Mat());
  cv.resize(off, small, new cv.Size(off.cols >> 1, off.rows >> 1), 0, 0, cv.INTER_AREA);
  const half = Math.max(4, Math.round(STEPS.lineUm / (2 * umPerPx) / 2));
  const side = 2 * half + 1;
  const best = keep(new cv.Mat(small.rows, small.cols, cv.CV_32F, new cv.Scalar(0)));
  const response = keep(new cv.Mat());
  for (let k = 0; k < DIRECTIONS; k++) {
    const kernel = keep(cv.matFromArray(side, side, cv.CV_32F, lineKernel(half, (Math.PI * k) / DIRECTIONS)));
    cv.filter2D(small, response, cv.CV_32F, kernel);
    const now = response.data32F as Float32Array;
    const most = best.data32F as Float32Array;
    for (let i = 0; i < now.length; i++) if (Math.abs(now[i]!) > Math.abs(most[i]!)) most[i] = now[i]!;
  }
  const whole = keep(new cv.Mat());
  cv.resize(best, whole, new cv.Size(off.cols, off.rows), 0, 0, cv.INTER_LINEAR);
  return whole;
}

/** The mean within half a pixel of a line through the middle, less that two pixels beside it. */
function lineKernel(half: number, angle: number): Float32Array {
  const side = 2 * half + 1;
  const across = Float32Array.from({ length: side * side }, (_, i) => {
    const x = (i % side) - half;
    const y = Math.floor(i / side) - half;
    const along = x * Math.cos(angle) + y * Math.sin(angle);
    return Math.abs(along) > half ? Infinity : Math.abs(y * Math.cos(angle) - x * Math.sin(angle));
  });
  const isOn = (d: number): boolean => d <= 0.7;
  const isBeside = (d: number): boolean => d > 1.7 && d <= 3;
  const on = across.filter(isOn).length;
  const beside = across.filter(isBeside).length;
  return across.map((d) => (isOn(d) ? 1 / on : isBeside(d) ? -1 / beside : 0));
}

/** By the median deviation of every seventh pixel. */
function spreadIn(values: Float32Array, inside: Uint8Array): number {
  const some: number[] = [];
  for (let i = 0; i < values.length; i += 7) if (inside[i]) some.push(Math.abs(values[i]!));
  some.sort((a, b) => a - b);
  return Math.max(0.1, 1.4826 * (some[some.length >> 1] ?? 0));
}

function marked(values: Float32Array, inside: Uint8Array, least: number): Uint8Array {
  return inside.map((on, i) => (on && Math.abs(values[i]!) > least ? 255 : 0));
}

/** Connected pixels, by their indexes. */
function groups(cv: any, keep: (mat: any) => any, mask: Uint8Array, { width, height }: Place): number[][] {
  const mat = keep(cv.matFromArray(height, width, cv.CV_8UC1, mask));
  const labels = keep(new cv.Mat());
  const count: number = cv.connectedComponents(mat, labels, 8);
  const found = Array.from({ length: count }, (): number[] => []);
  const at = labels.data32S as Int32Array;
  for (let i = 0; i < at.length; i++) if (at[i]! > 0) found[at[i]!]!.push(i);
  return found.filter((pixels) => pixels.length >= STEPS.leastPx);
}

function asLine(
  pixels: readonly number[],
  offs: Float32Array,
  noise: number,
  place: Place,
): MeasuredFeature | null {
  const { width, umPerPx } = place;
  const n = pixels.length;
  const mx = pixels.reduce((sum, i) => sum + (i % width), 0) / n;
  const my = pixels.reduce((sum, i) => sum + Math.floor(i / width), 0) / n;
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % width) - mx;
    const dy = Math.floor(i / width) - my;
    xx += (dx * dx) / n;
    yy += (dy * dy) / n;
    xy += (dx * dy) / n;
  }
  const middle = (xx + yy) / 2;
  const apart = Math.hypot((xx - yy) / 2, xy);
  const length = Math.sqrt(12 * (middle + apart));
  const across = Math.sqrt(12 * Math.max(0.1, middle - apart));
  if (length * umPerPx < STEPS.lineUm || length < STEPS.elongated * across) return null;
  return featureOf('scratch', pixels, offs, noise, place, { size: n / length, length, x: mx, y: my });
}

function asDefect(
  cv: any,
  pixels: readonly number[],
  offs: Float32Array,
  noise: number,
  place: Place,
): MeasuredFeature {
  const { width } = place;
  const points = pixels.flatMap((i) => [i % width, Math.floor(i / width)]);
  const mat = cv.matFromArray(pixels.length, 1, cv.CV_32SC2, points);
  const { center, radius } = cv.minEnclosingCircle(mat);
  mat.delete();
  const size = 2 * radius + 1;
  return featureOf('defect', pixels, offs, noise, place, { size, length: size, x: center.x, y: center.y });
}

function featureOf(
  kind: MeasuredFeature['kind'],
  pixels: readonly number[],
  offs: Float32Array,
  noise: number,
  { width, circle, umPerPx }: Place,
  { size, length, x, y }: { size: number; length: number; x: number; y: number },
): MeasuredFeature {
  const um = (i: number): readonly [number, number] => [
    ((i % width) - circle.x) * umPerPx,
    (Math.floor(i / width) - circle.y) * umPerPx,
  ];
  const places = pixels.map(um);
  const far = places.map(([px, py]) => Math.hypot(px, py));
  return {
    kind,
    sizeUm: size * umPerPx,
    xUm: (x - circle.x) * umPerPx,
    yUm: (y - circle.y) * umPerPx,
    nearestUm: far.reduce((a, b) => Math.min(a, b)),
    farthestUm: far.reduce((a, b) => Math.max(a, b)),
    ...(kind === 'scratch' ? { lengthUm: length * umPerPx } : {}),
    areaUm2: pixels.length * umPerPx ** 2,
    uncertaintyUm: umPerPx,
    contrast: pixels.reduce((most, i) => Math.max(most, Math.abs(offs[i]!)), 0) / noise,
    outlineUm: places.filter((_, k) => k % Math.max(1, Math.round(places.length / 48)) === 0),
  };
}
