import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SCORING, score } from './score.ts';
import {
  check,
  entry,
  failed,
  limit,
  measure,
  mm,
  passed,
  retract,
  sheetOf,
  SOURCE,
  step,
} from './entries-for-tests.ts';
import type { Entry } from './types.ts';

const final = { ...DEFAULT_SCORING, final: true };
const ten = sheetOf(
  step(
    's',
    'strip',
    Array.from({ length: 10 }, (_, i) => check(`c${i}`)),
  ),
);
const all = (sheet = ten): Entry[] =>
  sheet.steps.flatMap((s) => s.criteria.filter((c) => c.kind === 'check').map((c) => passed(c.id)));

describe('pass mark and silence', () => {
  it('nothing scored is incomplete, never passed', () => {
    const outcome = score(ten, []);
    expect(outcome.verdict).toBe('incomplete');
    expect(outcome.missing).toHaveLength(10);
    expect(outcome.points).toEqual({ earned: 0, possible: 100, open: 100 });
    expect(score(ten, [], final).verdict).toBe('incomplete');
  });

  it('all passed is a pass', () => {
    const outcome = score(ten, all());
    expect(outcome.verdict).toBe('pass');
    expect(outcome.skills.strip?.verdict).toBe('pass');
    expect(outcome.reasons).toEqual([]);
  });

  it('80 of 100 reaches the mark of 80 %', () => {
    const entries = [...all().slice(2), failed('c0'), failed('c1')];
    expect(score(ten, entries).verdict).toBe('pass');
  });

  it('fails as soon as full marks on the rest could not reach the mark, and not before', () => {
    const two = [failed('c0'), failed('c1')];
    expect(score(ten, two).verdict).toBe('incomplete');
    const outcome = score(ten, [...two, failed('c2')]);
    expect(outcome.verdict).toBe('fail');
    expect(outcome.reasons[0]).toEqual({
      code: 'group.pass_mark_missed',
      params: { best: 70, possible: 100, mark: 80 },
    });
  });

  it('one required criterion open keeps it from passing', () => {
    expect(score(ten, all().slice(1), final).verdict).toBe('incomplete');
    expect(score(ten, all().slice(1), final).reasons).toContainEqual({
      code: 'group.required_open',
      params: { count: 1 },
    });
  });
});

describe('critical, optional, stop, not seen', () => {
  const sheet = sheetOf(
    step('a', 'strip', [check('plain'), check('critical', { critical: true })]),
    step('b', 'cleave', [check('other'), check('extra', { required: false })]),
    step('c', 'test', [check('light', { stop: true, critical: true })]),
  );
  const rest = ['plain', 'critical', 'other', 'light'].map((id) => passed(id));
  const without = (id: string): Entry[] => rest.filter((e) => e.criterionId !== id);

  it('a failed critical criterion fails its skill and the whole, and no other skill', () => {
    const outcome = score(sheet, [...without('critical'), failed('critical')]);
    expect(outcome.verdict).toBe('fail');
    expect(outcome.skills.strip?.verdict).toBe('fail');
    expect(outcome.skills.cleave?.verdict).toBe('pass');
    expect(outcome.reasons).toContainEqual({
      code: 'group.critical_failed',
      params: { criterion: 'critical' },
    });
  });

  it('an optional criterion that was not scored is out of the possible points', () => {
    expect(score(sheet, rest).points).toEqual({ earned: 40, possible: 40, open: 0 });
    expect(score(sheet, rest).verdict).toBe('pass');
    expect(score(sheet, [...rest, failed('extra')]).points).toEqual({ earned: 40, possible: 50, open: 0 });
  });

  it('a stop breach fails the attempt at once', () => {
    const outcome = score(sheet, [failed('light')]);
    expect(outcome).toMatchObject({ verdict: 'fail', stopped: true });
    expect(outcome.skills.test?.verdict).toBe('fail');
    expect(outcome.skills.strip?.verdict).toBe('incomplete');
  });

  it('not seen leaves a required criterion open', () => {
    const outcome = score(sheet, [...without('plain'), entry('plain', null, { kind: 'not_seen' })], final);
    expect(outcome.verdict).toBe('incomplete');
    expect(outcome.missing).toEqual(['plain']);
    expect(outcome.criteria[0]).toMatchObject({ state: 'not_seen' });
  });

  it('a void attempt is void throughout', () => {
    const outcome = score(sheet, rest, { ...final, attemptVoid: true });
    expect(outcome.verdict).toBe('void');
    expect(Object.values(outcome.skills).every((s) => s!.verdict === 'void')).toBe(true);
  });
});

describe('marginal results', () => {
  const band = { upper: limit('1.0') };
  const uncertainty = { value: '0.1', source: SOURCE };
  const sheet = sheetOf(
    step('a', 'cleave', [
      measure('angle', band, { unit: 'deg', uncertainty, critical: true }),
      check('other'),
    ]),
  );
  const angle = (text: string): Entry => entry('angle', { kind: 'measure', text, unit: 'deg' });

  it.each([
    ['0.90', 'pass', 'pass'],
    ['0.91', 'marginal_pass', 'marginal_pass'],
    ['1.0', 'marginal_pass', 'marginal_pass'],
    ['1.01', 'marginal_fail', 'marginal_fail'],
    ['1.10', 'marginal_fail', 'marginal_fail'],
    ['1.11', 'fail', 'fail'],
  ])('%s degrees is %s, the skill %s', (text, verdict, skill) => {
    const outcome = score(sheet, [angle(text), passed('other')]);
    expect(outcome.criteria[0]!.verdict).toBe(verdict);
    expect(outcome.skills.cleave?.verdict).toBe(skill);
    expect(outcome.verdict).toBe(skill);
  });

  it('a marginal result that decides nothing leaves the verdict plain', () => {
    const plenty = sheetOf(
      step('a', 'cleave', [
        measure('angle', band, { unit: 'deg', uncertainty, points: 1 }),
        ...Array.from({ length: 9 }, (_, i) => check(`c${i}`)),
      ]),
    );
    expect(score(plenty, [angle('0.95'), ...all(plenty)]).verdict).toBe('pass');
  });

  it('the strict rule counts a marginal pass as a fail, by setting', () => {
    const strict = { ...DEFAULT_SCORING, marginalPassCounts: false };
    expect(score(sheet, [angle('0.95'), passed('other')], strict).verdict).toBe('fail');
    const lenient = { ...DEFAULT_SCORING, marginalFailCounts: true };
    expect(score(sheet, [angle('1.05'), passed('other')], lenient).verdict).toBe('pass');
  });

  it('a described scale gives the points of its level', () => {
    const levels = [
      { id: 'good', label: 'Good', verdict: 'pass', points: 10 },
      { id: 'fair', label: 'Fair', verdict: 'marginal_pass', points: 6 },
      { id: 'bad', label: 'Bad', verdict: 'fail', points: 0 },
    ];
    const graded = sheetOf(step('a', 'inspect', [check('face', { kind: 'grade', levels } as never)]));
    const grade = (level: string) => score(graded, [entry('face', { kind: 'grade', level })]);
    expect(grade('good')).toMatchObject({ verdict: 'pass', points: { earned: 10 } });
    // 6 of 10 points do not reach 80 %: with nothing open any more this is a fail.
    expect(grade('fair')).toMatchObject({ verdict: 'fail', points: { earned: 6 } });
    expect(grade('bad').verdict).toBe('fail');
  });
});

describe('a failure charged to its cause', () => {
  const sheet = sheetOf(
    step('a', 'cleave', [check('cleaved')]),
    step('b', 'terminate', [check('made'), check('loss-ok', { critical: true })]),
  );
  const charge = (more: Partial<Entry> = {}): Entry =>
    entry(
      'loss-ok',
      { kind: 'charge', skill: 'cleave', cause: 'bad_cleave' },
      { kind: 'charge', part: 'charge', ...more },
    );
  const scored = [passed('cleaved'), passed('made')];

  it('fails the skill of the cause and leaves its own unharmed', () => {
    const plain = score(sheet, [...scored, failed('loss-ok')]);
    expect(plain.skills.terminate?.verdict).toBe('fail');
    const charged = score(sheet, [...scored, failed('loss-ok'), charge()]);
    expect(charged.skills.cleave?.verdict).toBe('fail');
    expect(charged.skills.terminate?.verdict).toBe('pass');
    expect(charged.criteria[2]).toMatchObject({ skill: 'cleave', chargedFrom: 'terminate' });
    expect(charged.verdict).toBe('fail');
    expect(charged.points).toEqual(plain.points);
  });

  it('is taken back by a retraction, and means nothing once the criterion passes', () => {
    const one = charge();
    expect(score(sheet, [...scored, failed('loss-ok'), one, retract(one)]).skills.terminate?.verdict).toBe(
      'fail',
    );
    expect(score(sheet, [...scored, passed('loss-ok'), one]).skills.cleave?.verdict).toBe('pass');
  });

  it('two choices that do not know of each other, and a trainee’s, charge nothing', () => {
    const two = [charge(), charge()];
    expect(score(sheet, [...scored, failed('loss-ok'), ...two]).skills.terminate?.verdict).toBe('fail');
    const own = charge({ capacity: 'trainee' });
    expect(score(sheet, [...scored, failed('loss-ok'), own]).skills.terminate?.verdict).toBe('fail');
  });
});

describe('limits', () => {
  const inside = sheetOf(step('a', 'strip', [measure('x', { lower: limit('10'), upper: limit('11') })]));
  const under = sheetOf(
    step('a', 'strip', [measure('x', { lower: limit('0', true), upper: limit('11', true) })]),
  );
  it.each([
    ['10', 'pass'],
    ['11.0', 'pass'],
    ['9.999', 'fail'],
    ['11.001', 'fail'],
    ['10,5', 'pass'],
  ])('%s mm in 10 to 11 is a %s', (text, verdict) => {
    expect(score(inside, [mm('x', text)]).criteria[0]!.verdict).toBe(verdict);
  });
  it('a limit written with under or over leaves its own value out', () => {
    expect(score(under, [mm('x', '11')]).verdict).toBe('fail');
    expect(score(under, [mm('x', '10.99')]).verdict).toBe('pass');
    expect(score(under, [mm('x', '0')]).verdict).toBe('fail');
  });
  it('inches are compared exactly: 0.4330708... in is 11 mm, 0.434 in is over', () => {
    expect(score(inside, [mm('x', '0.433', 'in')]).verdict).toBe('pass');
    expect(score(inside, [mm('x', '0.434', 'in')]).verdict).toBe('fail');
  });
});

describe('which entry counts', () => {
  const sheet = sheetOf(step('a', 'strip', [check('x'), check('own', { acceptsTrainee: true })]));
  const own = passed('own');
  const verdictOf = (...entries: Entry[]) => score(sheet, [own, ...entries]).criteria[0]!;

  it('a later entry that saw the first supersedes it', () => {
    const first = failed('x');
    expect(verdictOf(first, passed('x', { supersedes: [first.id] })).verdict).toBe('pass');
  });

  it('two that do not know of each other are a conflict', () => {
    const a = failed('x');
    const b = passed('x');
    expect(verdictOf(a, b)).toMatchObject({ state: 'conflict', verdict: 'incomplete' });
    expect(score(sheet, [own, a, b]).conflicts).toEqual(['x']);
    expect(verdictOf(a, b, passed('x', { supersedes: [a.id, b.id] })).state).toBe('scored');
  });

  it('a retraction restores what its target had superseded, and can be taken back', () => {
    const first = failed('x');
    const second = passed('x', { supersedes: [first.id] });
    const undo = retract(second);
    expect(verdictOf(first, second, undo).verdict).toBe('fail');
    expect(verdictOf(first, second, undo, retract(undo)).verdict).toBe('pass');
    expect(verdictOf(first, retract(first)).state).toBe('open');
  });

  it('an unwitnessed entry neither scores nor touches a witnessed one', () => {
    const seen = failed('x');
    const claim = passed('x', { capacity: 'trainee', supersedes: [seen.id] });
    expect(verdictOf(claim)).toMatchObject({ state: 'open', reasons: [{ code: 'open.proposed' }] });
    expect(verdictOf(seen, claim).verdict).toBe('fail');
    expect(verdictOf(seen, retract(seen, { capacity: 'trainee' })).verdict).toBe('fail');
    expect(verdictOf(claim, retract(claim, { capacity: 'trainee' })).state).toBe('open');
  });

  it('a criterion that accepts the trainee takes the own entry until a witnessed one comes', () => {
    const claim = passed('own', { capacity: 'trainee' });
    expect(score(sheet, [claim]).criteria[1]!.verdict).toBe('pass');
    expect(score(sheet, [claim, failed('own')]).criteria[1]!.verdict).toBe('fail');
  });

  it('does not depend on the order, nor on an entry that comes twice', () => {
    const ops = fc.array(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.boolean(), fc.nat(9)), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(ops, fc.nat(), (list, seed) => {
        const made: Entry[] = [];
        for (const [kind, pass, at] of list) {
          const seen = made.slice(0, at).map((e) => e.id);
          const target = made[at % Math.max(1, made.length)];
          if (kind === 3 && target) made.push(retract(target));
          else made.push((pass ? passed : failed)('x', { supersedes: seen }));
        }
        const cut = seed % Math.max(1, made.length);
        const turned = [...made.slice(cut), ...made.slice(0, cut)].reverse();
        expect(score(sheet, [...turned, ...made])).toEqual(score(sheet, made));
      }),
    );
  });
});
