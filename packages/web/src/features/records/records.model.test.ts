import type { AttemptRow } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import {
  columnsInOrder,
  columnsSeen,
  columnsShown,
  columnTurned,
  nextOrder,
  PAGE,
  pagesMissing,
  placesFor,
  recordsTable,
  USUAL_COLUMNS,
  withPage,
} from './records.model.ts';

const row = (n: number, more: Partial<AttemptRow> = {}): AttemptRow => ({
  attemptId: `a${n}`,
  traineeId: 't',
  traineeName: 'Ysolde Brack',
  pieceLabel: `YB-${n}`,
  methodTitle: 'Bench cleave',
  startedAt: '2026-03-02T09:00:00.000Z',
  day: '2026-03-02',
  state: 'signed',
  verdict: 'pass',
  skills: { cleave: 'pass' },
  losses: [],
  reason: null,
  ...more,
});

describe('pages of a long list', () => {
  it('those that are looked at and not there are asked for, none twice', () => {
    expect(pagesMissing(0, 20, 1000, new Map())).toEqual([0]);
    expect(pagesMissing(95, 205, 1000, new Map())).toEqual([0, 1, 2]);
    expect(pagesMissing(95, 205, 1000, new Map([[1, []]]))).toEqual([0, 2]);
  });
  it('none beyond the end, none of an empty list', () => {
    expect(pagesMissing(190, 400, 201, new Map())).toEqual([1, 2]);
    expect(pagesMissing(0, 20, 0, new Map())).toEqual([]);
    expect(pagesMissing(-5, 3, 50, new Map())).toEqual([0]);
  });
  it('a line without its page keeps its place', () => {
    const second = Array.from({ length: 50 }, (_, i) => row(PAGE + i));
    const places = placesFor(150);
    const lines = withPage(places, 1, second);
    expect(lines[0]).toBe(places[0]);
    expect(lines).toHaveLength(150);
    expect(lines[0]).toEqual({ id: 'line 0', row: null });
    expect(lines[PAGE]!.id).toBe(`a${PAGE}`);
    expect(new Set(lines.map((l) => l.id)).size).toBe(150);
  });
});

describe('the order of a list', () => {
  it('begins with the newest, the first letter or the passes, and turns round at the second tap', () => {
    expect(nextOrder({}, 'started')).toEqual({ up: 'yes' });
    expect(nextOrder({ up: 'yes' }, 'started')).toEqual({});
    expect(nextOrder({}, 'trainee')).toEqual({ sort: 'trainee', up: 'yes' });
    expect(nextOrder({ sort: 'trainee', up: 'yes' }, 'trainee')).toEqual({ sort: 'trainee' });
    expect(nextOrder({ sort: 'trainee', up: 'yes' }, 'started')).toEqual({});
  });
});

describe('columns', () => {
  it('are those that were kept; what is no column any more is passed over', () => {
    expect(columnsSeen(null)).toEqual(USUAL_COLUMNS);
    expect(columnsSeen('loss gone cleave trainee')).toEqual(['loss', 'cleave']);
    expect(columnsSeen('')).toEqual([]);
    expect(columnsSeen('own:Closure_work loss')).toEqual(['own:Closure_work', 'loss']);
  });
  it('stand in the order that was chosen, what is not seen after them', () => {
    const keys = columnsInOrder(['loss', 'method'], ['own:Closure_work']).map((c) => c.key);
    expect(keys.slice(0, 3)).toEqual(['loss', 'method', 'started']);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys).not.toContain('trainee');
    expect(keys.at(-1)).toBe('own:Closure_work');
  });
  it('that are always seen come first; a skill of a method that is gone is passed over', () => {
    const keys = columnsShown(['own:Gone', 'loss', 'own:Closure_work'], ['own:Closure_work']).map(
      (c) => c.key,
    );
    expect(keys).toEqual(['trainee', 'piece', 'verdict', 'loss', 'own:Closure_work']);
  });
  it('are seen and put away one by one; a new one comes last', () => {
    expect(columnTurned(['loss'], 'method')).toEqual(['loss', 'method']);
    expect(columnTurned(['loss', 'method'], 'loss')).toEqual(['method']);
  });
});

describe('the chosen records as a file', () => {
  it('has a column for each wavelength that any of them was read at; no light is left empty', () => {
    const { head, rows } = recordsTable([
      row(1, { losses: [{ wavelengthNm: 1550, lossDb: 0.31 }] }),
      row(2, {
        losses: [{ wavelengthNm: 1310, lossDb: null }],
        reason: 'shards on the mat',
        verdict: 'fail',
        skills: { 'own:Closure_work': 'fail', strip: 'pass' },
      }),
    ]);
    expect(head).toContain('Closure work');
    expect(rows[1]![head.indexOf('Closure work')]).toBe('Fail');
    expect(head.slice(-3)).toEqual(['Loss at 1310 nm, dB', 'Loss at 1550 nm, dB', 'Reason']);
    expect(rows.map((r) => r.slice(-3))).toEqual([
      [null, 0.31, ''],
      [null, null, 'shards on the mat'],
    ]);
    expect(rows.every((r) => r.length === head.length)).toBe(true);
    expect(rows[1]).toContain('Fail');
  });
});
