import { describe, expect, it } from 'vitest';
import { balancedRows, type ColumnEdge } from './balanced-edges.ts';
import { firstFall, levelsAlong } from './edge-profile.ts';

const WIDTH = 300;
const HEIGHT = 60;
const LIGHT = 200;
const DARK = 30;
/** Where the edge lies: on a line, from light above to dark below. */
const edgeAt = (x: number): number => 25 + 0.021 * x;
/** Light over a pixel whose middle lies `d` below an edge that falls on a straight line over so many pixels: closed form. */
function overPixel(d: number, wide: number): number {
  // Integral of the share of the light from far above to y below the edge.
  const upTo = (y: number): number => {
    const t = Math.max(-wide / 2, Math.min(wide / 2, y));
    return Math.min(y, -wide / 2) + (t + wide / 2) / 2 - t ** 2 / (2 * wide) + wide / 8;
  };
  return DARK + (LIGHT - DARK) * (upTo(d + 0.5) - upTo(d - 0.5));
}
function picture(wide: number): { width: number; height: number; data: Uint8Array } {
  const data = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) data[y * WIDTH + x] = Math.round(overPixel(y - edgeAt(x), wide));
  return { width: WIDTH, height: HEIGHT, data };
}
const read = (image: ReturnType<typeof picture>): ColumnEdge[] =>
  Array.from({ length: WIDTH - 2 }, (_, x) => ({
    x,
    start: 5,
    way: 1,
    ...firstFall(levelsAlong(image, { x, y: 5 }, { x: 0, y: 1 }, 50), 6, 20)!,
  }));
/** How far rows lie off the edge at the most, their mean taken off. */
function wanders(rows: ArrayLike<number>): number {
  const offs = Array.from(rows, (row, x) => row - edgeAt(x));
  const mean = offs.reduce((sum, o) => sum + o, 0) / offs.length;
  return Math.max(...offs.map((o) => Math.abs(o - mean)));
}

describe('rows of an edge', () => {
  it('do not wander with where a sharp edge lies within its pixel, as half-way levels do', () => {
    for (const wide of [0.3, 0.8, 1.4]) {
      const image = picture(wide);
      const edges = read(image);
      const halfWay = edges.map((e) => e.start + e.at);
      const balanced = balancedRows(image, edges);
      expect(wanders(balanced)).toBeLessThan(0.02);
      if (wide < 1) expect(wanders(halfWay)).toBeGreaterThan(0.04);
      // Of both the middle is the same place.
      const mean = (rows: ArrayLike<number>): number =>
        Array.from(rows).reduce((sum, r) => sum + r, 0) / rows.length;
      expect(Math.abs(mean(balanced) - mean(halfWay))).toBeLessThan(0.05);
    }
  });
  it('stay as they were read where the edge is soft, and where there are few', () => {
    const soft = picture(6);
    const edges = read(soft);
    expect([...balancedRows(soft, edges)]).toEqual(edges.map((e) => e.start + e.at));
    const sharp = picture(0.8);
    const few = read(sharp).slice(0, 20);
    expect([...balancedRows(sharp, few)]).toEqual(few.map((e) => e.start + e.at));
  });
  it('stay where more is off than an edge wanders: dirt, or the joint', () => {
    const image = picture(0.8);
    const clean = balancedRows(image, read(image));
    // A speck of half the light right before the edge.
    for (let x = 140; x < 146; x++) {
      const y = Math.floor(edgeAt(x)) - 2;
      image.data[y * WIDTH + x] = 110;
    }
    const edges = read(image);
    const rows = balancedRows(image, edges);
    for (let x = 140; x < 146; x++) expect(rows[x]).toBe(5 + edges[x]!.at);
    expect(Math.abs(rows[100]! - clean[100]!)).toBeLessThan(0.01);
  });
  it('stay where what counts of them reaches out of the picture, and move no other', () => {
    const image = picture(0.8);
    // As a half-way level is read that lies a little further in than the step.
    const edges = read(image).map((e) => ({ ...e, at: e.at + 0.1 }));
    // Ten columns whose edge is told from far above the picture.
    const outside = edges.map((e, x) => (x < 10 ? { ...e, start: e.start - 100 } : e));
    const clean = balancedRows(image, edges);
    const rows = balancedRows(image, outside);
    for (let x = 0; x < 10; x++) expect(rows[x]).toBe(outside[x]!.start + outside[x]!.at);
    for (let x = 10; x < edges.length; x++) expect(Math.abs(rows[x]! - clean[x]!)).toBeLessThan(0.01);
  });
});
