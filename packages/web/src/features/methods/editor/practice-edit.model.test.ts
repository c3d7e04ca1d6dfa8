import { applyPractice, type PracticeChange, sheetProblems } from '@clear-mark/core';
import { LC_WEDGE_LOCATOR, SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { removeCriterion, removeStep } from './draft-edit.model.ts';
import {
  addPractice,
  changeOf,
  changePractice,
  changeWords,
  newAlternative,
  removePractice,
} from './practice-edit.model.ts';

const sheet = LC_WEDGE_LOCATOR;
const { schools: _none, ...bare } = sheet;
const criteria = sheet.steps.flatMap((s) => [...s.criteria]);
const measure = criteria.find((c) => c.kind === 'measure')!;
const check = criteria.find((c) => c.kind === 'check')!;

describe('a question on which a class decides', () => {
  it('begins with the sheet as it is written; its id is no other one’s', () => {
    const made = addPractice(addPractice(bare));
    const [first, second] = made.schools!;
    expect(first!.id).not.toBe(second!.id);
    expect(first!.options.map((o) => o.changes)).toEqual([[], []]);
    expect(first!.default).toBe(first!.options[0]!.id);
    const third = newAlternative(first!);
    expect(first!.options.map((o) => o.id)).not.toContain(third.id);
    expect(removePractice(removePractice(made, 1), 0)).toEqual(bare);
  });
  it('changes what it says once a class chooses it', () => {
    const made = addPractice(bare);
    const [practice] = made.schools!;
    const changes = [changeOf('leave_out', check)!, changeOf('when_seen', measure)!];
    const options = practice!.options.map((o, i) => (i === 1 ? { ...o, label: 'quick', changes } : o));
    const asked = changePractice(made, 0, { ...practice!, options });
    expect(sheetProblems(asked)).toEqual([]);
    const chosen = applyPractice(asked, { [practice!.id]: options[1]!.id });
    const left = chosen.steps.flatMap((s) => [...s.criteria]);
    expect(left.map((c) => c.id)).not.toContain(check.id);
    expect(left.find((c) => c.id === measure.id)!.required).toBe(false);
    expect(applyPractice(asked, {})).toBe(asked);
  });
  it('can set other limits only where there are some', () => {
    expect(changeOf('band', check)).toBeNull();
    expect(changeOf('band', measure)).toMatchObject({ change: 'band', criterion: measure.id });
    expect(changeOf('require', check)).toMatchObject({ required: true });
  });
  it('every change of every shipped method is said in words, without an id', () => {
    const said = SHIPPED_METHODS.flatMap((m) =>
      (m.schools ?? []).flatMap((p) => p.options.flatMap((o) => o.changes.map((c) => changeWords(c, m)))),
    );
    expect(said.length).toBeGreaterThan(100);
    expect(said.filter((words) => words.includes('clear-mark/'))).toEqual([]);
    const kinds = new Set<PracticeChange['change']>(
      SHIPPED_METHODS.flatMap((m) =>
        (m.schools ?? []).flatMap((p) => p.options.flatMap((o) => o.changes.map((c) => c.change))),
      ),
    );
    expect(kinds.size).toBeGreaterThan(6);
  });
});

it('what a copy loses goes from its practice options as well, so that it can be published', () => {
  for (const c of criteria) {
    const home = sheet.steps.find((s) => s.criteria.includes(c))!.id;
    const codes = sheetProblems(removeCriterion(sheet, home, c.id)).map((p) => p.code);
    expect(
      codes.filter((code) => code.startsWith('sheet.practice')),
      c.id,
    ).toEqual([]);
  }
  for (const s of sheet.steps) {
    const codes = sheetProblems(removeStep(sheet, s.id)).map((p) => p.code);
    expect(
      codes.filter((code) => code.startsWith('sheet.practice')),
      s.id,
    ).toEqual([]);
  }
});
