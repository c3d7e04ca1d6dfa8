import { describe, expect, it } from 'vitest';
import { checkSheet } from '../sheet/index.ts';
import { check, entry, loss, reference, sheetOf, step } from './entries-for-tests.ts';
import { checkValue } from './entry-value.ts';
import { DEFAULT_SCORING, score } from './score.ts';

const SOURCE = { kind: 'house', fromMemory: false, words: 'test' } as const;
const row = (more: object = {}) => ({ ...loss('loss'), fibers: 4, ...more }) as never;
const range = (more: object = {}) =>
  ({
    ...check('range'),
    kind: 'measure',
    unit: 'dB',
    band: { upper: { value: '0.5', source: SOURCE } },
    rangeOf: 'loss',
    ...more,
  }) as never;
const sheet = sheetOf(step('s', 'test', [range(), row()]));
const references = [reference(1310), reference(1550)];
const read = (fiber: number, nm: number, text: string) =>
  entry('loss', { kind: 'loss', text, unit: 'dB', referenceId: `ref${nm}` } as never, {
    part: `f${fiber}.${nm}`,
  });
const all = (texts: readonly string[], longer = texts) => [
  ...texts.map((t, i) => read(i + 1, 1310, t)),
  ...longer.map((t, i) => read(i + 1, 1550, t)),
];
const judged = (...entries: ReturnType<typeof read>[]) =>
  score(sheet, entries, { ...DEFAULT_SCORING, references }).criteria[0]!;

describe('the range of a row', () => {
  it('is most less least, to the last digit: 0.9 less 0.4 is at the limit of 0.5', () =>
    expect(judged(...all(['0.40', '0.51', '0.62', '0.90']))).toMatchObject({
      state: 'scored',
      verdict: 'pass',
      value: 0.5,
    }));

  it('is the widest of the wavelengths, never across them', () => {
    const apart = judged(...all(['0.40', '0.41', '0.42', '0.43'], ['1.0', '1.1', '1.2', '1.3']));
    expect(apart).toMatchObject({ verdict: 'pass', value: 0.3 });
    const wide = judged(...all(['0.40', '0.41', '0.42', '0.43'], ['0.2', '0.3', '0.4', '0.8']));
    expect(wide).toMatchObject({ verdict: 'fail', value: 0.6, reasons: [{ code: 'band.over' }] });
  });

  it('waits until the row is read, and nothing that was typed stands for it', () => {
    const typed = entry('range', { kind: 'measure', text: '0.1', unit: 'dB' } as never);
    expect(judged(typed)).toMatchObject({ state: 'open', verdict: 'incomplete' });
    expect(judged(read(1, 1310, '0.4'), typed).state).toBe('open');
    const wide = all(['0.40', '0.41', '0.42', '1.43']);
    expect(judged(...wide, typed)).toMatchObject({ verdict: 'fail', value: 1.03 });
  });

  it('is not typed', () => {
    const criterion = sheet.steps[0]!.criteria[0]!;
    expect(() => checkValue(criterion, '', { kind: 'measure', text: '0.1', unit: 'dB' })).toThrow(
      'value.worked_out',
    );
  });

  it('is of the loss of several fibers, in dB', () => {
    const made = (r: object, l: object = {}) => sheetOf(step('s', 'test', [row(l), check('c'), range(r)]));
    expect(() => checkSheet(made({}))).not.toThrow();
    for (const wrong of [
      made({ rangeOf: 'c' }),
      made({ rangeOf: 'none' }),
      made({ unit: 'mm' }),
      made({}, { fibers: 1 }),
    ]) {
      expect(() => checkSheet(wrong)).toThrow('sheet.range_target');
    }
  });
});
