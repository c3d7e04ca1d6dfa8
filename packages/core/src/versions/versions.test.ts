import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DomainError } from '../domain-error.ts';
import type { EntryValue } from '../scoring/index.ts';
import { checkSheet, type MethodSheet } from '../sheet/index.ts';
import { check, limit, loss, measure, sheetOf, SOURCE, step } from '../sheet/sheet-for-tests.ts';
import { compareSheets } from './compare-sheets.ts';
import { copySheet, emptySheet } from './copy-sheet.ts';
import { mergeSheets } from './merge-sheets.ts';
import { outcomesUnder, type SignedAttempt } from './outcomes-under.ts';
import { isSame } from './same.ts';

const sheet = sheetOf(
  step('strip', 'strip', [
    check('house/m/clean'),
    measure('house/m/length', { lower: limit('4'), upper: limit('5') }),
    measure('house/m/rest', { lower: limit('1') }, { less: 'house/m/length' }),
  ]),
  step('cleave', 'cleave', [check('house/m/cleaved')]),
  step('test', 'test', [
    check('house/m/wound'),
    loss('house/m/loss', { conditionedBy: 'house/m/wound', fibers: 2 }),
    measure('house/m/spread', { upper: limit('0.5') }, { unit: 'dB', rangeOf: 'house/m/loss' }),
    check('house/m/call', { kind: 'call', of: 'house/m/loss' } as never),
  ]),
);
const withSteps = (steps: MethodSheet['steps']): MethodSheet => ({ ...sheet, steps });
const retitled = (of: MethodSheet, id: string, title: string): MethodSheet => ({
  ...of,
  steps: of.steps.map((s) => (s.id === id ? { ...s, title } : s)),
});

describe('a copied method', () => {
  const copy = copySheet({ ...sheet, version: 4 }, 'own/short', 'Short');

  it('is sound, begins at version 1, and names nothing of the method that it came from', () => {
    expect(checkSheet(copy)).toBe(copy);
    expect(copy).toMatchObject({ id: 'own/short', version: 1, title: 'Short' });
    expect(JSON.stringify(copy).replaceAll(/"label":"[^"]*"/g, '')).not.toContain('house/m');
  });

  it('keeps what names another criterion pointed at its copy', () => {
    const all = copy.steps.flatMap((s) => s.criteria);
    const named = all.flatMap((c) => {
      if (c.kind === 'measure') return [c.less, c.rangeOf];
      if (c.kind === 'call') return [c.of];
      return c.kind === 'loss' ? [c.conditionedBy] : [];
    });
    expect(named.filter(Boolean)).toEqual([
      'own/short/length',
      'own/short/wound',
      'own/short/loss',
      'own/short/loss',
    ]);
  });

  it('differs from the original in nothing but names', () => {
    expect(compareSheets(copySheet(sheet, 'a/b', sheet.title), copySheet(sheet, 'a/b', 'Other'))).toEqual([
      { change: 'changed', step: null, criterion: null, field: 'title', before: sheet.title, after: 'Other' },
    ]);
  });

  it('begins from nothing with a step and a caution', () => {
    expect(emptySheet('own/x', 'X')).toMatchObject({ id: 'own/x', version: 1, title: 'X' });
    expect(emptySheet('own/x', 'X').cautions).toHaveLength(1);
  });
});

describe('what differs', () => {
  it('is nothing between a sheet and itself, whatever order its keys have', () => {
    const turned = Object.fromEntries(Object.entries(sheet).reverse()) as unknown as MethodSheet;
    expect(compareSheets(sheet, turned)).toEqual([]);
    expect(isSame({ a: [1, { b: 2 }], c: undefined }, { a: [1, { b: 2 }] })).toBe(true);
    expect(isSame([1], { 0: 1 })).toBe(false);
    expect(isSame(null, {})).toBe(false);
  });

  it('names the field of the criterion whose limit moved', () => {
    const band = { lower: limit('4'), upper: limit('6') };
    const after = withSteps(
      sheet.steps.map((s) => ({
        ...s,
        criteria: s.criteria.map((c) => (c.id === 'house/m/length' ? { ...c, band } : c)) as never,
      })),
    );
    expect(compareSheets(sheet, after)).toEqual([
      {
        change: 'changed',
        step: 'strip',
        criterion: 'house/m/length',
        field: 'band',
        before: { lower: limit('4'), upper: limit('5') },
        after: band,
      },
    ]);
  });

  it('tells a step that moved from the others that stayed', () => {
    const [a, b, c] = sheet.steps as [never, never, never];
    expect(compareSheets(sheet, withSteps([c, a, b])).map((d) => [d.change, d.step])).toEqual([
      ['moved', 'test'],
    ]);
  });

  it('tells a criterion that went to another step, came or went', () => {
    const [a, b, c] = sheet.steps;
    const moved = withSteps([
      { ...a!, criteria: a!.criteria.slice(1) },
      { ...b!, criteria: [...b!.criteria, a!.criteria[0]!, check('house/m/new')] },
      { ...c!, criteria: c!.criteria.slice(0, 3) },
    ]);
    expect(compareSheets(sheet, moved).map((d) => [d.change, d.step, d.criterion])).toEqual([
      ['removed', 'test', 'house/m/call'],
      ['moved', 'cleave', 'house/m/clean'],
      ['added', 'cleave', 'house/m/new'],
    ]);
  });
});

describe('two edits of one sheet put together', () => {
  it('keeps both where they changed different steps, whoever comes first', () => {
    const mine = retitled(sheet, 'strip', 'Mine');
    const theirs = { ...retitled(sheet, 'test', 'Theirs'), summary: 'new' };
    const merged = mergeSheets(sheet, mine, theirs);
    expect(merged).toEqual(mergeSheets(sheet, theirs, mine));
    expect(merged.steps.map((s) => s.title)).toEqual(['Mine', sheet.steps[1]!.title, 'Theirs']);
    expect(merged.summary).toBe('new');
  });

  it.each([
    ['the same step', retitled(sheet, 'strip', 'A'), retitled(sheet, 'strip', 'B'), 'strip'],
    ['a step that went', withSteps(sheet.steps.slice(1)), retitled(sheet, 'strip', 'B'), 'strip'],
    ['the title', { ...sheet, title: 'A' }, { ...sheet, title: 'B' }, 'title'],
    [
      'the order',
      withSteps([sheet.steps[1]!, sheet.steps[0]!, sheet.steps[2]!]),
      withSteps([sheet.steps[2]!, sheet.steps[0]!, sheet.steps[1]!]),
      'order',
    ],
  ])('refuses %s changed in two ways, and says which', (_name, mine, theirs, what) => {
    const merge = (): MethodSheet => mergeSheets(sheet, mine, theirs);
    expect(merge).toThrow(DomainError);
    expect(merge).toThrow(`versions.edited_twice {"what":"${what}"}`);
  });

  it('takes the same change twice, and puts steps that either added behind the step that they followed', () => {
    const mine = retitled(
      withSteps([sheet.steps[0]!, step('m', 'strip', [check('m')]), ...sheet.steps.slice(1)]),
      'test',
      'T',
    );
    const theirs = retitled(withSteps([...sheet.steps, step('t', 'test', [check('t')])]), 'test', 'T');
    expect(mergeSheets(sheet, mine, theirs).steps.map((s) => s.id)).toEqual([
      'strip',
      'm',
      'cleave',
      'test',
      't',
    ]);
  });

  it('an edit merged with nothing is that edit, for edits of any kind', () => {
    const edits = fc.record({
      title: fc.string(),
      kept: fc.subarray(['strip', 'cleave', 'test'], { minLength: 1 }),
      turned: fc.boolean(),
      named: fc.option(fc.string()),
    });
    const edit = ({ title, kept, turned, named }: typeof edits extends fc.Arbitrary<infer T> ? T : never) => {
      const steps = sheet.steps
        .filter((s) => kept.includes(s.id))
        .map((s) => (named === null ? s : { ...s, title: named }));
      return { ...sheet, title, steps: turned ? [...steps].reverse() : steps };
    };
    fc.assert(
      fc.property(edits, (of) => {
        expect(mergeSheets(sheet, edit(of), sheet)).toEqual(edit(of));
        expect(mergeSheets(sheet, sheet, edit(of))).toEqual(edit(of));
        expect(mergeSheets(sheet, edit(of), edit(of))).toEqual(edit(of));
      }),
    );
  });
});

describe('what signed pieces would have been', () => {
  const source = SOURCE;
  const plain: MethodSheet = {
    ...sheetOf(step('cut', 'strip', [check('own/a/clean'), measure('own/a/length', { upper: limit('13') })])),
    id: 'own/a',
  };
  const tighter = (id: string): MethodSheet => {
    const upper = { value: '12.5', source };
    const of = id === 'own/a' ? plain : copySheet(plain, id, 'Copy');
    return {
      ...of,
      version: 2,
      steps: of.steps.map((s) => ({
        ...s,
        criteria: s.criteria.map((c) => (c.kind === 'measure' ? { ...c, band: { upper } } : c)),
      })),
    };
  };
  const entry = (criterionId: string, value: EntryValue, n: number) => ({
    id: `${criterionId} ${n}`,
    kind: 'value' as const,
    criterionId,
    part: '',
    value,
    voidReason: null,
    note: null,
    authorId: '',
    capacity: 'instructor' as const,
    deviceId: '',
    source: 'typed' as const,
    at: '2026-03-02T09:00:00Z',
    supersedes: [],
    targetId: null,
  });
  const signed = (mm: string, n: number): SignedAttempt => ({
    attempt: {
      id: `piece ${n}`,
      traineeId: 't',
      startedAt: '2026-03-02T09:00:00Z',
      versionId: 'v1',
      schools: {},
      link: null,
      asVoid: false,
      entries: [
        entry('own/a/clean', { kind: 'check', passed: true }, n),
        entry('own/a/length', { kind: 'measure', text: mm, unit: 'mm' }, n),
      ],
    },
    sheet: plain,
    references: [],
  });
  const pieces = ['12', '12.5', '12.8', '13.4'].map(signed);
  const policy = { marginalPassCounts: true, marginalFailCounts: false };

  it('are those between the two limits, at the limit itself none', () => {
    expect(outcomesUnder(pieces, tighter('own/a'), policy)).toEqual({
      attempts: 4,
      notScored: 0,
      newlyFailed: 1,
      newlyPassed: 0,
      changes: [{ id: 'piece 2', before: 'pass', after: 'fail' }],
    });
  });

  it('are the same under a copy, whose criteria have the same names', () => {
    expect(outcomesUnder(pieces, tighter('own/b'), policy)).toEqual(
      outcomesUnder(pieces, tighter('own/a'), policy),
    );
  });

  it('are incomplete where something more is asked, and none of none', () => {
    const more = { ...plain, steps: [...plain.steps, step('more', 'test', [check('own/a/more')])] };
    expect(outcomesUnder(pieces.slice(0, 1), more, policy).changes).toEqual([
      { id: 'piece 0', before: 'pass', after: 'incomplete' },
    ]);
    expect(outcomesUnder([], more, policy)).toMatchObject({ attempts: 0, notScored: 0, changes: [] });
  });
});
