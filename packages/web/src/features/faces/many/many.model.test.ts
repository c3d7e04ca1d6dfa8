import {
  faceCriteria,
  type GradedFace,
  gradeFace,
  type MeasuredFace,
  type MeasuredFeature,
  type MeasuredRow,
} from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { tableCsv } from '../../../charts/chart-file.ts';
import { countsOf, linesOf, type OneOfMany, shownOf, tableOf } from './many.model.ts';

const PC = faceCriteria('sm-pc')!;
const defect = (sizeUm: number, xUm: number, uncertaintyUm = 0.2): MeasuredFeature => ({
  kind: 'defect',
  sizeUm,
  xUm,
  yUm: 0,
  nearestUm: xUm - sizeUm / 2,
  farthestUm: xUm + sizeUm / 2,
  uncertaintyUm,
  areaUm2: 4,
  contrast: 8,
  outlineUm: [],
});
const face = (...features: MeasuredFeature[]): GradedFace => ({
  ok: true,
  umPerPx: 0.31234,
  centrePx: [320, 240],
  claddingDiameterPx: 400,
  blurUm: 0.4,
  core: { class: 'unlit', radiusUm: null },
  contactSeen: 1,
  features,
  grade: gradeFace(features, PC),
});
let id = 0;
const picture = (
  name: string,
  found: MeasuredFace | MeasuredRow | null,
  problem: string | null = null,
): OneOfMany => ({
  id: id++,
  name,
  file: new File([], name),
  state: problem !== null ? 'broken' : found === null ? 'waiting' : 'done',
  problem,
  found,
  thumb: null,
});
const PICTURES = [
  picture('port 10.png', face()),
  picture('port 2 before.png', face(defect(9, 40), defect(3, 20))),
  picture('port 2 after cleaning.png', face(defect(9, 40))),
  picture('port 3.png', face(defect(5.0, 40, 0.6))),
  picture('port 4.png', { ok: false, reason: 'too_dark' }),
  picture('port 5.png', null, 'port 5.png cannot be read: it is broken or cut short.'),
  picture('port 6.png', null),
];

describe('lines of many pictures', () => {
  const lines = linesOf(PICTURES, PC);
  const line = (name: string) => lines.find((l) => l.picture.name === name)!;

  it('stand in the order of their names, with figures by their value', () =>
    expect(lines.map((l) => l.picture.name)).toEqual([
      'port 2 after cleaning.png',
      'port 2 before.png',
      'port 3.png',
      'port 4.png',
      'port 5.png',
      'port 6.png',
      'port 10.png',
    ]));
  it('say what decided, and what cleaning did', () => {
    expect(line('port 10.png')).toMatchObject({ verdict: 'pass', state: 'graded', words: [], defects: 0 });
    expect(line('port 2 before.png').words).toEqual(['Zone B: a defect of 9.0 µm, which is not allowed']);
    expect(line('port 2 after cleaning.png').words[1]).toBe(
      'Cleaned since port 2 before.png: 1 went, 1 stayed, 0 came.',
    );
  });
  it('a size at the limit is near it, with its chance and what to do', () => {
    const { state, chance, words } = line('port 3.png');
    expect(state).toBe('near');
    expect(chance).toBeGreaterThan(0.05);
    expect(chance).toBeLessThan(0.95);
    expect(words.at(-1)).toMatch(/^Near the limit.*Look closer/);
  });
  it('what was not graded has its reason and no figures', () => {
    expect(line('port 4.png')).toMatchObject({ verdict: null, state: 'refused', scratches: null });
    expect(line('port 4.png').words[0]).toMatch(/dark/);
    expect(line('port 5.png').words).toEqual(['port 5.png cannot be read: it is broken or cut short.']);
    expect(line('port 6.png')).toMatchObject({ state: 'waiting', words: [] });
  });

  it('are counted, and narrowed to those that fail, lie near or have no grade', () => {
    const { pass, fail, near, ...more } = countsOf(lines);
    expect(more).toEqual({ all: 7, done: 6, refused: 2 });
    expect([pass + fail, near]).toEqual([4, 1]);
    expect(shownOf(lines, 'all')).toHaveLength(7);
    expect(shownOf(lines, 'fail').every((l) => l.verdict === 'fail')).toBe(true);
    expect(shownOf(lines, 'near').map((l) => l.picture.name)).toEqual(['port 3.png']);
    expect(shownOf(lines, 'refused').map((l) => l.picture.name)).toEqual(['port 4.png', 'port 5.png']);
  });

  it('as a file have a row each that is measured', () => {
    const { head, rows } = tableOf(lines, PC.title);
    expect(rows).toHaveLength(6);
    expect(rows.every((row) => row.length === head.length)).toBe(true);
    const csv = tableCsv({ head, rows }).split('\r\n');
    expect(csv.find((row) => row.startsWith('port 10.png'))).toContain(',pass,no,1,0.3123,0,0,');
    expect(csv.find((row) => row.startsWith('port 4.png'))).toContain(',not graded,no,');
  });
});

it('a row of fibers names those that fail or have no grade', () => {
  const row: MeasuredRow = {
    ok: true,
    verdict: 'fail',
    fibers: [face(), face(defect(9, 40)), { ok: false as const, reason: 'too_blurred' as const }].map(
      (one, i) => ({ fiber: i + 1, centrePx: [100 * i, 0], face: one }),
    ),
  };
  const [line] = linesOf([picture('row.png', row)], PC);
  expect(line).toMatchObject({ verdict: 'fail', fibers: 3, chance: null });
  expect(line!.words).toHaveLength(2);
  expect(line!.words[0]).toBe('Fiber 2: a defect of 9.0 µm, which is not allowed');
  expect(line!.words[1]).toMatch(/^Fiber 3: /);
});
