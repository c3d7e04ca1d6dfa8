import { describe, expect, it } from 'vitest';
import { labelAt, pathOf } from './face-marks.model.ts';
import type { ShownFeature } from './face-view.model.ts';

/** Two pixels a micrometre, the face's centre at (100, 100). */
const scale = {
  px: (um: number) => um * 2,
  at: (x: number, y: number): [number, number] => [100 + 2 * x, 100 + 2 * y],
  stroke: 1,
};
const feature = (more: Partial<ShownFeature>): ShownFeature => ({
  number: 1,
  kind: 'defect',
  sizeUm: 6,
  uncertaintyUm: null,
  xUm: 0,
  yUm: 0,
  lengthUm: null,
  areaUm2: null,
  outlineUm: [],
  rejected: false,
  changed: false,
  decides: false,
  zones: [],
  origin: { by: 'engine', index: 0 },
  ...more,
});

describe('marks on an end face', () => {
  it('a defect has four corners round it, as far out as it is wide', () => {
    const path = pathOf(feature({}), scale);
    expect(path.match(/M/g)).toHaveLength(4);
    // Radius 6 px and 4 lines of room: the corners are at 90 and 110.
    expect(path).toContain('M95 90H90V95');
    expect(path).toContain('M105 110H110V105');
  });
  it('a scratch has a rail on each side, off it by half its width and some room', () => {
    const path = pathOf(
      feature({
        kind: 'scratch',
        sizeUm: 2,
        outlineUm: [
          [-5, 0],
          [5, 0],
        ],
      }),
      scale,
    );
    expect(path).toBe('M90.0 105.5L110.0 105.5M90.0 94.5L110.0 94.5');
  });
  it('a scratch without a course is marked like a spot', () =>
    expect(pathOf(feature({ kind: 'scratch', outlineUm: [[0, 0]] }), scale)).toMatch(/^M/));
  it('the number stands clear of the mark', () => expect(labelAt(feature({}), scale)).toEqual([115, 85]));
});
