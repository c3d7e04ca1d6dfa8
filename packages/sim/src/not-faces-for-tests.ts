import type { GreyImage } from '@clear-mark/core';
import { cloudsOf } from './draw-for-tests.ts';
import { inByte } from './light.ts';
import { normal, type Rng } from './rng.ts';

type Shade = (x: number, y: number) => number;

const within = (d: number): number => Math.max(0, Math.min(1, d + 0.5));

/**
 * Pictures that are round in some way and no end face: what a camera sees beside the bench. Levels at a place in pixels from
 * the middle of the picture.
 */
const SHAPES: Readonly<Record<string, (rng: Rng) => Shade>> = {
  two_discs: (rng) => {
    const apart = 60 + 60 * rng();
    return (x, y) => (Math.hypot(x - apart, y) < 150 || Math.hypot(x + apart, y) < 150 ? 90 : 170);
  },
  bullseye: (rng) => {
    const pitch = 22 + 16 * rng();
    return (x, y) => (Math.hypot(x, y) < 170 && Math.floor(Math.hypot(x, y) / pitch) % 2 === 0 ? 70 : 180);
  },
  coin: (rng) => {
    const relief = cloudsOf(rng, 14, 0.22);
    return (x, y) => {
      const r = Math.hypot(x, y);
      return r > 160 ? 60 : r > 148 ? 190 : 140 * (1 + relief(x, y));
    };
  },
  crescent: (rng) => {
    const off = 50 + 40 * rng();
    return (x, y) => (Math.hypot(x, y) < 150 && Math.hypot(x - off, y) > 140 ? 190 : 90);
  },
  half_disc: (rng) => {
    const t = 2 * Math.PI * rng();
    return (x, y) => (Math.hypot(x, y) < 150 && x * Math.cos(t) + y * Math.sin(t) > 0 ? 80 : 170);
  },
  printed_circle: (rng) => {
    const wide = 9 + 8 * rng();
    return (x, y) => 205 - 160 * within(wide / 2 - Math.abs(Math.hypot(x, y) - 150));
  },
  bubble: () => (x, y) => {
    const r = Math.hypot(x, y) / 150;
    const rim = 70 * Math.exp(-(((r - 0.92) / 0.16) ** 2));
    const shine = 80 * Math.exp(-(((x + 50) ** 2 + (y + 60) ** 2) / 600));
    return 150 - rim + shine;
  },
  cog: (rng) => {
    const teeth = 10 + Math.floor(12 * rng());
    return (x, y) => {
      const r = Math.hypot(x, y);
      const out = Math.sin(teeth * Math.atan2(y, x)) > 0;
      return r < (out ? 150 : 118) ? 80 : 180;
    };
  },
  ellipse: (rng) => {
    const flat = 0.72 + 0.14 * rng();
    return (x, y) => (Math.hypot(x, y / flat) < 160 ? 90 : 170);
  },
  polygon: (rng) => {
    const sides = 5 + Math.floor(3 * rng());
    const step = (2 * Math.PI) / sides;
    return (x, y) => {
      const t = Math.atan2(y, x) + 2 * Math.PI;
      const a = (t % step) - step / 2;
      return Math.hypot(x, y) * Math.cos(a) < 140 ? 90 : 175;
    };
  },
  spiral: () => (x, y) => {
    const r = Math.hypot(x, y);
    return r < 170 && Math.sin(r / 9 + Math.atan2(y, x)) > 0 ? 80 : 170;
  },
  ring_of_dots: () => (x, y) => {
    const t = (Math.round((Math.atan2(y, x) / (2 * Math.PI)) * 24) / 24) * 2 * Math.PI;
    return Math.hypot(x - 150 * Math.cos(t), y - 150 * Math.sin(t)) < 11 ? 60 : 180;
  },
};
export const NOT_FACES = Object.keys(SHAPES);

/** One of them, soft by a pixel and noisy. */
export function notFace(kind: string, rng: Rng, width = 640, height = 480): GreyImage {
  const shade = SHAPES[kind]!(rng);
  const cx = width / 2 + 10 * normal(rng);
  const cy = height / 2 + 10 * normal(rng);
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (const dy of [-0.5, 0, 0.5])
        for (const dx of [-0.5, 0, 0.5]) sum += shade(x - cx + 1.6 * dx, y - cy + 1.6 * dy);
      data[y * width + x] = inByte(sum / 9 + 2 * normal(rng));
    }
  }
  return { width, height, data };
}
