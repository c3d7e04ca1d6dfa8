import { describe, expect, it } from 'vitest';
import type { Criterion } from '../sheet/index.ts';
import {
  check,
  entry,
  limit,
  loss,
  passed,
  reading,
  reference,
  sheetOf,
  SOURCE,
  step,
} from './entries-for-tests.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import { type Entry, partValue } from './types.ts';

const base = { points: 10, critical: false, required: true, source: SOURCE };
const readings = (more: object = {}): Criterion =>
  ({
    ...base,
    id: 'grid',
    kind: 'readings',
    label: 'grid',
    unit: 'dB',
    band: { upper: limit('0.10') },
    fibers: 3,
    ...more,
  }) as Criterion;
const cell = (part: string, text: string, more: Partial<Entry> = {}): Entry =>
  entry('grid', { kind: 'measure', text, unit: 'dB' }, { part, ...more });
const scored = (criterion: Criterion, entries: Entry[]) =>
  score(sheetOf(step('s', 'splice', [criterion, check('other')])), [passed('other'), ...entries])
    .criteria[0]!;

describe('readings in parts', () => {
  it('the worst of them decides, and is the value', () => {
    const found = scored(readings(), [cell('f1', '0.02'), cell('f2', '0.11'), cell('f3', '0.05')]);
    expect(found).toMatchObject({ verdict: 'fail', earned: 0, value: 0.11, state: 'scored' });
    expect(found.reasons).toEqual([
      { code: 'band.over', params: expect.objectContaining({ value: '0.11', fiber: 2 }) },
    ]);
    expect(found.parts.map((p) => [p.part, p.verdict])).toEqual([
      ['f1', 'pass'],
      ['f2', 'fail'],
      ['f3', 'pass'],
    ]);
  });
  it('all at the limit pass with all points', () => {
    const found = scored(
      readings(),
      ['f1', 'f2', 'f3'].map((f) => cell(f, '0,10')),
    );
    expect(found).toMatchObject({ verdict: 'pass', earned: 10, reasons: [], value: 0.1 });
  });
  it('a missing fiber leaves it incomplete, a failing one fails it at once', () => {
    const open = scored(readings(), [cell('f1', '0.02')]);
    expect(open).toMatchObject({ verdict: 'incomplete', state: 'open' });
    expect(open.reasons).toEqual([{ code: 'parts.missing', params: { count: 2, of: 3 } }]);
    expect(scored(readings(), [cell('f1', '0.5')])).toMatchObject({ verdict: 'fail', state: 'scored' });
  });
  it('several failures: the worst is named, lowest number on a tie, the others counted', () => {
    const found = scored(readings({ fibers: 4 }), [
      cell('f1', '0.2'),
      cell('f2', '0.3'),
      cell('f3', '0.3'),
      cell('f4', '0.01'),
    ]);
    expect(found.reasons[0]!.params['fiber']).toBe(2);
    expect(found.reasons[1]).toEqual({ code: 'parts.also_failed', params: { count: 2 } });
  });
  it('a lower limit: the least is the worst', () => {
    const found = scored(readings({ band: { lower: limit('2') } }), [
      cell('f1', '2.5'),
      cell('f2', '1.0'),
      cell('f3', '1.5'),
    ]);
    expect(found.value).toBe(1);
    expect(found.reasons[0]!.params['fiber']).toBe(2);
  });
  it('two results for one fiber that do not know of each other are a conflict; the other cells stay', () => {
    const found = scored(readings(), [cell('f1', '0.02'), cell('f2', '0.03'), cell('f2', '0.04')]);
    expect(found).toMatchObject({ state: 'conflict', verdict: 'incomplete' });
    expect(found.parts.map((p) => p.verdict)).toEqual(['pass', 'incomplete', 'incomplete']);
    expect(found.entryIds).toHaveLength(2);
  });
  it('not seen and void cells', () => {
    const unseen = entry('grid', null, { kind: 'not_seen', part: 'f1' });
    expect(scored(readings(), [unseen])).toMatchObject({ state: 'not_seen', verdict: 'incomplete' });
    const void1 = entry('grid', null, { kind: 'void', part: 'f1', voidReason: 'setup_broken' });
    const found = scored(readings(), [void1, cell('f2', '0.02'), cell('f3', '0.02')]);
    expect(found).toMatchObject({ state: 'void', verdict: 'void' });
    expect(found.reasons[0]).toEqual({ code: 'void.reading', params: { fiber: 1, why: 'setup_broken' } });
  });
  it('each cell says which entry stands in it', () => {
    const first = cell('f1', '0.05');
    const second = cell('f1', '0.06', { supersedes: [first.id] });
    expect(scored(readings(), [first, second]).parts[0]!.entryId).toBe(second.id);
  });
});

describe('loss of many fibers', () => {
  const refs = [reference(1310), reference(1550)];
  const array = loss('loss', { fibers: 12, directions: ['a_b', 'b_a'] });
  const lossOf = (entries: Entry[]) =>
    score(sheetOf(step('t', 'test', [array])), entries, { ...DEFAULT_SCORING, references: refs })
      .criteria[0]!;
  const full = (of: (fiber: number, nm: number, direction: string) => string): Entry[] =>
    Array.from({ length: 12 }, (_, i) => i + 1).flatMap((fiber) =>
      [1310, 1550].flatMap((nm) =>
        ['a_b', 'b_a'].map((direction) => ({
          ...reading(nm, of(fiber, nm, direction)),
          part: `f${fiber}.${nm}.${direction}`,
        })),
      ),
    );

  it('forty-eight good readings pass', () => {
    const found = lossOf(full(() => '-5.30'));
    expect(found).toMatchObject({ verdict: 'pass', state: 'scored', reasons: [] });
    expect(found.parts).toHaveLength(48);
    expect(found.parts[47]!.part).toBe('f12.1550.b_a');
    expect(partValue(found.parts[47]!)).toBeCloseTo(0.3, 9);
  });
  it('link loss is judged in each direction, the worst of them decides', () => {
    const found = lossOf(full((f, nm, d) => (f === 5 && nm === 1310 && d === 'b_a' ? '-6.40' : '-5.30')));
    expect(found.verdict).toBe('fail');
    expect(found.reasons).toEqual([
      {
        code: 'loss.over',
        params: expect.objectContaining({ fiber: 5, wavelength: 1310, direction: 'b_a', loss: 1.4 }),
      },
    ]);
  });
  it('no light is worse than any number', () => {
    const entries = full((f) => (f === 9 ? '-8.0' : '-5.30'));
    const dark = entries.findIndex((e) => e.part === 'f11.1310.a_b');
    entries[dark] = {
      ...entries[dark]!,
      value: { kind: 'loss', unit: 'dBm', noLight: true, referenceId: 'ref1310' },
    };
    const found = lossOf(entries);
    expect(found.reasons[0]).toEqual({
      code: 'loss.no_light',
      params: { fiber: 11, wavelength: 1310, direction: 'a_b' },
    });
    expect(found.reasons[1]).toEqual({ code: 'parts.also_failed', params: { count: 4 } });
  });
  it('a bend is looked for within one fiber and direction, never across', () => {
    const across = full((f) => (f % 2 === 0 ? '-5.05' : '-5.65'));
    expect(lossOf(across).flags).not.toContain('bend_suspected');
    const bent = full((f, nm) => (f === 4 && nm === 1550 ? '-5.60' : '-5.05'));
    expect(lossOf(bent).flags).toContain('bend_suspected');
  });
  it('one void reading among good ones', () => {
    const entries = full(() => '-5.30');
    entries[0] = { ...entries[0]!, kind: 'void', value: null, voidReason: 'launch_cord_taken_off' };
    expect(lossOf(entries)).toMatchObject({ verdict: 'void', state: 'void' });
    expect(lossOf(entries.slice(0, 47)).reasons.map((r) => r.code)).toEqual([
      'void.reading',
      'parts.missing',
    ]);
  });
});
