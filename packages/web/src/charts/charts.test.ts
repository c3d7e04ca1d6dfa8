import { describe, expect, it } from 'vitest';
import type { ChartLook } from './chart-look.ts';
import { chartPlaces, placeAfter } from './chart-walk.ts';
import { withZoom, ZOOMED_FROM } from './chart-zoom.ts';

const look: ChartLook = {
  token: (name) => name,
  soft: { color: 'soft', fontFamily: 'f', fontSize: 13 },
  tooltip: { trigger: 'item', textStyle: { fontFamily: 'f' }, formatter: () => '' },
};
const places = (n: number, type = 'category') => ({
  grid: { left: 40, bottom: 30 },
  xAxis: { type, data: Array.from({ length: n }, (_, i) => String(i)) },
  series: [],
});

describe('a part of a long chart', () => {
  it('is looked at from a length on, with room for the slider under it', () => {
    const zoomed = withZoom(places(ZOOMED_FROM), look) as {
      dataZoom: { type: string }[];
      grid: { bottom: number; left: number };
    };
    expect(zoomed.dataZoom.map((z) => z.type)).toEqual(['inside', 'slider']);
    expect(zoomed.grid.bottom).toBeGreaterThan(50);
    expect(zoomed.grid.left).toBe(40);
  });
  it('a short one, and one of values, stay as they are', () => {
    const short = places(ZOOMED_FROM - 1);
    const values = places(100, 'value');
    expect([withZoom(short, look), withZoom(values, look)]).toEqual([short, values]);
    expect(withZoom(short, look)).toBe(short);
  });
});

describe('the points of a chart by keys', () => {
  const option = {
    series: [
      { silent: true, data: [1, 2] },
      { data: [{ value: 0.4, name: 'Ada, 0.40 dB' }, null, 7, { value: [0.1, 3], name: '0.00 to 0.20 dB' }] },
    ],
  };
  it('are those that say something, each with its words', () =>
    expect(chartPlaces(option)).toEqual([
      { seriesIndex: 1, dataIndex: 0, words: 'Ada, 0.40 dB' },
      { seriesIndex: 1, dataIndex: 2, words: '7' },
      { seriesIndex: 1, dataIndex: 3, words: '0.00 to 0.20 dB: 3' },
    ]));
  it('a chart without a series has none', () => expect(chartPlaces({})).toEqual([]));
  it.each([
    ['ArrowRight', -1, 3, 0],
    ['ArrowRight', 2, 3, 2],
    ['ArrowLeft', -1, 3, 2],
    ['ArrowLeft', 0, 3, 0],
    ['ArrowDown', 0, 3, 1],
    ['ArrowUp', 1, 3, 0],
    ['Home', 2, 3, 0],
    ['End', 0, 3, 2],
    ['Escape', 1, 3, -1],
    ['x', 1, 3, null],
    ['ArrowRight', -1, 0, null],
  ])('%s from %i of %i', (key, at, n, to) => expect(placeAfter(key, at, n)).toBe(to));
});
