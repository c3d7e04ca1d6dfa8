import { compareSheets, type Criterion, type MethodSheet } from '@clear-mark/core';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { differenceLines } from './differences.model.ts';

const before = LC_WEDGE_LOCATOR;
const lines = (after: MethodSheet) =>
  differenceLines(compareSheets(before, after), before, after).map(({ key: _key, ...line }) => line);
const changed = (name: string, by: (c: Criterion) => Criterion): MethodSheet => ({
  ...before,
  steps: before.steps.map((s) => ({
    ...s,
    criteria: s.criteria.map((c) => (c.id.endsWith(`/${name}`) ? by(c) : c)),
  })),
});
const measure = before.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'measure')!;
const check = before.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'check' && c.required)!;
const nameOf = (c: Criterion): string => c.id.split('/').pop()!;

describe('differences in words', () => {
  it('none for the same', () => expect(lines(before)).toEqual([]));

  it('a limit with its unit and its source', () => {
    const source = { kind: 'house', fromMemory: false, words: 'our jig' } as const;
    const after = changed(
      nameOf(measure),
      (c) => ({ ...c, band: { upper: { value: '12.5', source } } }) as Criterion,
    );
    expect(lines(after)).toMatchObject([
      {
        where: measure.label,
        what: 'limit',
        after: expect.stringMatching(/^at most 12\.5 .*\(house: our jig\)$/),
      },
    ]);
  });

  it('how it is scored is one line, though the data have two fields', () => {
    const after = changed(nameOf(check), (c) => ({ ...c, required: false, acceptsTrainee: true }));
    expect(lines(after)).toEqual([
      {
        where: check.label,
        what: 'scored',
        before: 'required',
        after: expect.not.stringMatching(/true|false/),
      },
    ]);
  });

  it('what came, went and moved', () => {
    const [first, ...others] = before.steps;
    const moved = { ...before, steps: [...others, first!] };
    expect(lines(moved)).toEqual([{ where: first!.title, what: 'moved', before: '', after: '' }]);
    const shorter = { ...before, steps: others };
    expect(lines(shorter)).toContainEqual(
      expect.objectContaining({
        where: first!.title,
        what: 'removed',
        before: expect.stringMatching(/criteri/),
      }),
    );
    const named = lines(shorter).map((l) => l.where);
    for (const c of first!.criteria) expect(named).toContain(c.label);
  });

  it.each<[string, Partial<MethodSheet>, string, string]>([
    ['the pass mark', { passMarkPercent: 70 }, 'pass mark', '70 %'],
    ['a text', { summary: 'Shorter.' }, 'what it is', 'Shorter.'],
    [
      'lengths',
      { strip: { jacketMm: 40, bufferMm: 20, cleaveMm: 9 } },
      'strip lengths',
      'jacket 40, buffer 20, cleaved at 9 mm',
    ],
    ['cautions', { cautions: [{ text: 'Mind.', stop: true }] }, 'cautions', 'Stop. Mind.'],
    ['equipment', { thingsUsed: ['scope'] }, 'equipment', 'Scope'],
  ])('%s of the whole', (_name, more, what, after) => {
    const [line] = lines({ ...before, ...more });
    expect(line).toMatchObject({ where: 'The method', what });
    expect(line!.after.toLowerCase()).toContain(after.toLowerCase());
  });

  it('no data shows through: every field of every shipped kind has words', () => {
    const after: MethodSheet = {
      ...before,
      steps: before.steps.map((s) => ({
        ...s,
        title: `${s.title}!`,
        criteria: s.criteria.map((c) => ({ ...c, points: c.points + 1, critical: !c.critical, hint: 'new' })),
      })),
    };
    for (const line of lines(after)) {
      expect(`${line.what} ${line.before} ${line.after}`).not.toMatch(/[a-z][A-Z]|\[object|undefined|\{/);
    }
  });
});
