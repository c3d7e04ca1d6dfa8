import { describe, expect, it } from 'vitest';
import type { Criterion } from '../sheet/index.ts';
import {
  check,
  entry,
  loss,
  passed,
  reading,
  reference,
  sheetOf,
  SOURCE,
  step,
} from './entries-for-tests.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import type { Call, Entry } from './types.ts';

const base = { points: 10, critical: false, required: true, source: SOURCE };
const map: Criterion = { ...base, id: 'map', label: 'map', kind: 'map', ports: 12, trunk: 'B' };
const call = (of?: string): Criterion =>
  ({ ...base, id: 'call', label: 'call', kind: 'call', ...(of ? { of } : {}) }) as Criterion;
const walked = (far: (number | null)[]): Entry => entry('map', { kind: 'map', far });
const RIGHT = [12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1];

describe('a port map', () => {
  const judge = (far: (number | null)[]) =>
    score(sheetOf(step('t', 'test', [map, check('other')])), [passed('other'), walked(far)]).criteria[0]!;
  it('passes when every near port lit where it should', () => {
    expect(judge(RIGHT)).toMatchObject({ verdict: 'pass', earned: 10, state: 'scored' });
  });
  it('stays open until every port was walked', () => {
    const found = judge([12, 11, ...Array<null>(10).fill(null)]);
    expect(found).toMatchObject({ verdict: 'incomplete', state: 'open', earned: 0 });
    expect(found.reasons).toEqual([{ code: 'map.open', params: { count: 10, ports: 12 } }]);
  });
  it('fails with the smallest explanation', () => {
    const straight = judge(RIGHT.map((_, i) => i + 1));
    expect(straight.verdict).toBe('fail');
    expect(straight.reasons).toEqual([{ code: 'map.wrong_type', params: { types: 'A', wanted: 'B' } }]);
    expect(judge([11, 12, ...RIGHT.slice(2)]).reasons).toEqual([
      { code: 'map.crossed_pair', params: { a: 1, b: 2 } },
    ]);
    expect(judge([12, 10, 11, ...RIGHT.slice(3)]).reasons).toEqual([
      { code: 'map.crossed_fibers', params: { ports: '2 3' } },
    ]);
    expect(judge([0, ...RIGHT.slice(1)]).reasons).toEqual([{ code: 'map.no_light', params: { ports: '1' } }]);
  });
});

describe('a call', () => {
  const refs = [reference(1310), reference(1550)];
  const sheet = sheetOf(step('t', 'test', [loss('loss'), call('loss'), check('other')]));
  const said = (what: Call, more: object = {}): Entry => entry('call', { kind: 'call', said: what, ...more });
  const judged = (what: Call, dbm: string | null, final = false) =>
    score(
      sheet,
      [passed('other'), said(what), ...(dbm === null ? [] : [reading(1310, dbm), reading(1550, dbm)])],
      { ...DEFAULT_SCORING, references: refs, final },
    );
  it.each([
    ['pass', '-5.20', 'pass', []],
    ['fail', '-7.00', 'pass', []],
    ['pass', '-7.00', 'fail', ['called_bad_good']],
    ['fail', '-5.20', 'fail', ['called_good_bad']],
    // Within the uncertainty of the limit nobody can tell: 0.75 dB against 0.75 +- 0.10.
    ['fail', '-5.75', 'marginal_fail', ['called_good_bad']],
    ['pass', '-5.80', 'marginal_fail', ['called_bad_good']],
  ] as const)('%s said of %s dBm: %s', (what, dbm, verdict, faults) => {
    const found = judged(what, dbm).criteria[1]!;
    expect(found.verdict).toBe(verdict);
    expect(found.faults).toEqual(faults);
    expect(found.earned).toBe(verdict === 'pass' ? 10 : 0);
  });
  it('waits for its reference', () => {
    const found = judged('pass', null).criteria[1]!;
    expect(found).toMatchObject({ state: 'open', verdict: 'incomplete' });
    expect(found.reasons).toEqual([{ code: 'call.reference_open', params: { criterion: 'loss' } }]);
  });
  it('of a void reading it is void with it, and named once', () => {
    const outcome = judged('pass', '-4.00', true);
    expect(outcome.criteria[1]).toMatchObject({ state: 'void', verdict: 'void' });
    expect(outcome.missing).toEqual([]);
    expect(outcome.reasons.filter((r) => r.code === 'group.test_void')).toHaveLength(1);
  });
  it('comes before what it is about on the sheet, all the same', () => {
    const turned = sheetOf(step('t', 'test', [call('loss'), loss('loss')]));
    const entries = [said('fail'), reading(1310, '-7'), reading(1550, '-7')];
    const outcome = score(turned, entries, { ...DEFAULT_SCORING, references: refs });
    expect(outcome.criteria.map((c) => [c.criterionId, c.verdict])).toEqual([
      ['call', 'pass'],
      ['loss', 'fail'],
    ]);
  });
  it('against the instructor’s own reference', () => {
    const alone = sheetOf(step('i', 'inspect', [call()]));
    const verdict = (what: Call, truth: Call) =>
      score(alone, [said(what, { reference: truth })]).criteria[0]!.verdict;
    expect([verdict('pass', 'pass'), verdict('pass', 'fail'), verdict('fail', 'fail')]).toEqual([
      'pass',
      'fail',
      'pass',
    ]);
  });
});
