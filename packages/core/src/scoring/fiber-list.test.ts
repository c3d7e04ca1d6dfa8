import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { entry, loss, reference, RULES, sheetOf, step } from './entries-for-tests.ts';
import { checkValue, DEFAULT_SCORING, score } from './index.ts';
import { partKey, partsOf } from '../sheet/index.ts';
import { applyLink, type AttemptLink, fiberListText, linkFindings, readFiberList } from '../loss/index.ts';

const SHEET = sheetOf(step('read', 'test', [loss('loss')]));
const TWELVE: AttemptLink = {
  id: 'l',
  label: 'Trunk',
  referenceMethod: 'one_cord',
  rules: RULES,
  plan: {
    fiberClass: 'OS2',
    fibers: 12,
    ends: ['panel', 'panel'],
    joints: [],
    segments: [{ kind: 'trunk', lengthM: 31, polish: 'flat', trunk: 'A', pins: false }],
  },
};

describe('a list of fibers', () => {
  it.each([
    ['', []],
    ['3', [3]],
    ['7-8, 3', [3, 7, 8]],
    ['1 2;2–4', [1, 2, 3, 4]],
  ])('%j', (text, fibers) => expect(readFiberList(text, 12)).toEqual({ kind: 'fibers', fibers }));
  it.each(['0', '13', '5-', '8-7', '1-2-3', 'a', '2.5'])('%j names no fiber', (text) =>
    expect(readFiberList(text, 12)).toMatchObject({ kind: 'no_fiber', most: 12 }),
  );
  it('is read again as it was written', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 144 })), (list) => {
        const fibers = [...list].sort((a, b) => a - b);
        expect(readFiberList(fiberListText(fibers), 144)).toEqual({ kind: 'fibers', fibers });
      }),
    );
  });
});

describe('fibers that are dark by design', () => {
  const linkWith = (darkFibers: readonly number[]) => ({
    ...TWELVE,
    plan: { ...TWELVE.plan, darkFibers },
  });
  it('are not read, and miss in no outcome', () => {
    const sheet = applyLink(SHEET, linkWith([5, 6, 7, 8]));
    const criterion = sheet.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'loss')!;
    expect([...new Set(partsOf(criterion).map((p) => p.fiber))]).toEqual([1, 2, 3, 4, 9, 10, 11, 12]);
    const value = { kind: 'loss', text: '0.3', unit: 'dB', referenceId: 'r' } as const;
    expect(() => checkValue(criterion, 'f5.1310', value)).toThrow('value.unknown_part');
    expect(() => checkValue(criterion, 'f9.1310', value)).not.toThrow();
    // Every lit fiber read is the whole: nothing waits for the dark ones.
    const references = [reference(1310, { method: 'one_cord' }), reference(1550, { method: 'one_cord' })];
    const entries = partsOf(criterion).map((place) =>
      entry('loss', { ...value, referenceId: `ref${place.wavelengthNm}` }, { part: partKey(place) }),
    );
    const read = score(sheet, entries, { ...DEFAULT_SCORING, references }).criteria[0]!;
    expect(read).toMatchObject({ verdict: 'pass' });
    const all = score(applyLink(SHEET, TWELVE), entries, { ...DEFAULT_SCORING, references }).criteria[0]!;
    expect(all).toMatchObject({ verdict: 'incomplete' });
  });
  it('all of them leave nothing to test', () => {
    const all = Array.from({ length: 12 }, (_, i) => i + 1);
    expect(linkFindings(linkWith(all).plan)).toContainEqual({
      code: 'link.all_dark',
      stops: true,
      params: {},
    });
    expect(linkFindings(linkWith([1]).plan).some((f) => f.stops)).toBe(false);
  });
});
