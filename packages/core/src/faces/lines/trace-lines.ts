import type { FaceSettings } from '../settings.ts';
import { type LineResponse, DIRECTIONS } from './line-response.ts';

/** Pixels of a crest in the order in which they lie along it; places in the square of the response. */
export type Crest = readonly number[];

/**
 * Crests of a line response: pixels that answer more than those at either side of their own direction, of one sign, each
 * followed to neighbours of nearly the same direction. At least `leastLength` px from end to end.
 */
export function traceCrests(
  response: LineResponse,
  leastLength: number,
  settings: FaceSettings,
): readonly Crest[] {
  const { side, value } = response;
  const crest = crestPixels(response, settings);
  const taken = new Uint8Array(value.length);
  const crests: Crest[] = [];
  const seeds: number[] = [];
  for (let i = 0; i < value.length; i++)
    if (crest[i] && Math.abs(value[i]!) > settings.crests.seed) seeds.push(i);
  seeds.sort((a, b) => Math.abs(value[b]!) - Math.abs(value[a]!));
  for (const seed of seeds) {
    if (taken[seed]) continue;
    const pixels = inOrder(flood(response, crest, taken, seed, settings), side);
    const a = pixels[0]!;
    const b = pixels[pixels.length - 1]!;
    if (Math.hypot((a % side) - (b % side), Math.floor(a / side) - Math.floor(b / side)) >= leastLength) {
      crests.push(pixels);
    }
  }
  return crests;
}

function crestPixels({ side, value, way }: LineResponse, settings: FaceSettings): Uint8Array {
  const steps = Array.from({ length: DIRECTIONS }, (_, w) => {
    const t = (w / DIRECTIONS) * Math.PI;
    return Math.round(Math.cos(t)) * side + Math.round(-Math.sin(t));
  });
  const crest = new Uint8Array(value.length);
  for (let i = side; i < value.length - side; i++) {
    const v = Math.abs(value[i]!);
    if (v < settings.crests.follows) continue;
    const step = steps[way[i]!]!;
    if (v >= Math.abs(value[i + step]!) && v >= Math.abs(value[i - step]!)) crest[i] = 1;
  }
  return crest;
}

const turned = (a: number, b: number): number =>
  Math.min((a - b + DIRECTIONS) % DIRECTIONS, (b - a + DIRECTIONS) % DIRECTIONS);

function flood(
  { side, value, way }: LineResponse,
  crest: Uint8Array,
  taken: Uint8Array,
  seed: number,
  settings: FaceSettings,
): number[] {
  const sign = Math.sign(value[seed]!);
  const pixels: number[] = [];
  const queue = [seed];
  taken[seed] = 1;
  while (queue.length > 0) {
    const i = queue.pop()!;
    pixels.push(i);
    const x = i % side;
    for (let dy = -2; dy <= 2; dy++) {
      for (let dx = -2; dx <= 2; dx++) {
        const next = i + dy * side + dx;
        if (x + dx < 0 || x + dx >= side || next < 0 || next >= crest.length) continue;
        if (!crest[next] || taken[next] || sign * value[next]! <= 0) continue;
        if (turned(way[i]!, way[next]!) > settings.crests.turn) continue;
        taken[next] = 1;
        queue.push(next);
      }
    }
  }
  return pixels;
}

/** Along the direction in which the pixels spread most. */
function inOrder(pixels: readonly number[], side: number): number[] {
  const { x, y, ux, uy } = axisOf(pixels.map((i) => [i % side, Math.floor(i / side)] as const));
  const at = (i: number): number => ((i % side) - x) * ux + (Math.floor(i / side) - y) * uy;
  return [...pixels].sort((a, b) => at(a) - at(b));
}

/** Middle and main direction of points. */
export function axisOf(points: readonly (readonly [number, number])[]): {
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
} {
  let x = 0;
  let y = 0;
  for (const [px, py] of points) [x, y] = [x + px / points.length, y + py / points.length];
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (const [px, py] of points) {
    xx += (px - x) ** 2;
    yy += (py - y) ** 2;
    xy += (px - x) * (py - y);
  }
  const t = 0.5 * Math.atan2(2 * xy, xx - yy);
  return { x, y, ux: Math.cos(t), uy: Math.sin(t) };
}
