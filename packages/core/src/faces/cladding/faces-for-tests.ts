import { numbers } from '../../numbers-for-tests.ts';
import { type FlatFace, spansOf } from './flat-face.ts';

export const SIDE = 201;
export const BLUR = 1.2;
export const UM_PER_PX = 0.3;
const MIDDLE = 100;

/** A level of something that is `width` wide and soft at its edges, `d` from its middle. */
export const soft = (d: number, width: number, blur: number): number => {
  const edge = (at: number): number => 1 / (1 + Math.exp((-1.702 * at) / blur));
  return edge(d + width / 2) - edge(d - width / 2);
};

/** Level at a place, from the middle of the square. */
export type Paint = (x: number, y: number) => number;

/** A flat square with noise of spread 2 and what is painted on it. */
export function faceOf(paint: Paint, seed = 7): FlatFace {
  const next = numbers(seed);
  const level = new Float32Array(SIDE * SIDE);
  const distance = new Float32Array(SIDE * SIDE);
  const inside = new Uint8Array(SIDE * SIDE);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const i = y * SIDE + x;
      let grain = -6;
      for (let k = 0; k < 12; k++) grain += next();
      level[i] = 2 * grain + paint(x - MIDDLE, y - MIDDLE);
      distance[i] = Math.hypot(x - MIDDLE, y - MIDDLE);
      inside[i] = distance[i]! < 95 ? 1 : 0;
    }
  }
  return {
    left: 0,
    top: 0,
    side: SIDE,
    umPerPx: UM_PER_PX,
    level,
    distance,
    inside,
    spans: spansOf(inside, SIDE),
  };
}

/** A straight mark through a point at an angle, both ways `half` long. */
export const mark =
  (deg: number, half: number, width: number, height: number, [px, py] = [0, 0]): Paint =>
  (x, y) => {
    const t = (deg * Math.PI) / 180;
    const s = (x - px) * Math.cos(t) + (y - py) * Math.sin(t);
    const n = (y - py) * Math.cos(t) - (x - px) * Math.sin(t);
    return Math.abs(s) > half ? 0 : height * soft(n, width, BLUR);
  };

/** A round mark of a radius. */
export const disc =
  (px: number, py: number, r: number, height: number): Paint =>
  (x, y) =>
    height * soft(Math.hypot(x - px, y - py), 2 * r, BLUR);

/** A Gaussian of a spread, in pixels; narrower than the blur there is nothing that a lens shows. */
export const bump =
  (spread: number, height: number, [px, py] = [20, 10]): Paint =>
  (x, y) =>
    height * Math.exp(-((x - px) ** 2 + (y - py) ** 2) / (2 * spread * spread));

/** Short straight pieces that turn this way and that, as a crack does. */
export const zigzag =
  (steps: number, step: number, turnDeg: number, width: number, height: number): Paint =>
  (x, y) => {
    let px = (-steps * step) / 2;
    let py = 0;
    let nearest = Infinity;
    for (let k = 0; k < steps; k++) {
      const t = ((k % 2 === 0 ? turnDeg : -turnDeg) * Math.PI) / 180;
      const qx = px + step * Math.cos(t);
      const qy = py + step * Math.sin(t);
      const s = Math.max(0, Math.min(step, (x - px) * Math.cos(t) + (y - py) * Math.sin(t)));
      nearest = Math.min(nearest, Math.hypot(x - px - s * Math.cos(t), y - py - s * Math.sin(t)));
      [px, py] = [qx, qy];
    }
    return height * soft(nearest, width, BLUR);
  };

export const together =
  (...paints: readonly Paint[]): Paint =>
  (x, y) =>
    paints.reduce((sum, p) => sum + p(x, y), 0);
