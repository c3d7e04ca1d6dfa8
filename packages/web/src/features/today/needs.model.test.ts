import type { TodayTile } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import type { RunningTimer } from '../../classroom/timers.model.ts';
import { type BoardBench, countsOf, inOrder, needsOf, STUCK_MINUTES } from './needs.model.ts';
import type { Bench } from './today.model.ts';

const NOW = Date.parse('2026-03-09T10:00:00Z');
const MINUTE = 60_000;
const timer = (startedMinutesAgo: number, least: number): RunningTimer =>
  ({
    startedAt: new Date(NOW - startedMinutesAgo * MINUTE).toISOString(),
    least,
    most: null,
  }) as unknown as RunningTimer;
const piece = (what: {
  quiet?: number;
  missing?: number;
  hand?: boolean;
  stops?: number;
  conflicts?: number;
  timers?: RunningTimer[];
}): LiveAttempt =>
  ({
    lastEntryAt: NOW - (what.quiet ?? 1) * MINUTE,
    hand: what.hand ? {} : null,
    timers: what.timers ?? [],
    outcome: {
      missing: Array.from({ length: what.missing ?? 9 }, (_, i) => `c${i}`),
      conflicts: Array.from({ length: what.conflicts ?? 0 }, (_, i) => `c${i}`),
      stops: Array.from({ length: what.stops ?? 0 }, () => ({})),
    },
  }) as unknown as LiveAttempt;
const bench = (name: string, open: LiveAttempt[], benchLabel: string | null = null): Bench => ({
  tile: { traineeId: name, traineeName: name, benchLabel } as TodayTile,
  open,
});
const kinds = (...open: LiveAttempt[]): string[] => needsOf(bench('a', open), NOW).map((n) => n.kind);

describe('what a bench wants', () => {
  it('nothing while the work goes on; something to start where nothing is open', () => {
    expect(kinds(piece({}))).toEqual([]);
    expect(kinds()).toEqual(['idle']);
  });

  it('a piece is stuck from the stated minutes on, not before, and not while something is timed', () => {
    expect(kinds(piece({ quiet: STUCK_MINUTES - 0.01 }))).toEqual([]);
    expect(needsOf(bench('a', [piece({ quiet: STUCK_MINUTES })]), NOW)).toEqual([
      { kind: 'stuck', words: `No entry for ${STUCK_MINUTES} min` },
    ]);
    expect(kinds(piece({ quiet: 60, timers: [timer(1, 600)] }))).toEqual([]);
  });

  it('a timer counts once it wants somebody', () => {
    expect(kinds(piece({ timers: [timer(9, 600)] }))).toEqual([]);
    expect(kinds(piece({ timers: [timer(10, 600)] }))).toEqual(['timer']);
  });

  it('nearly done, then ready to sign, however long nobody entered anything', () => {
    expect(needsOf(bench('a', [piece({ missing: 1 })]), NOW)[0]!.words).toBe('1 result to go');
    expect(needsOf(bench('a', [piece({ missing: 3 })]), NOW)[0]!.words).toBe('3 results to go');
    expect(kinds(piece({ missing: 4 }))).toEqual([]);
    expect(kinds(piece({ missing: 0, quiet: 90 }))).toEqual(['sign']);
  });

  it('the most pressing first, each once, over all pieces of the bench', () => {
    expect(
      kinds(
        piece({ missing: 0 }),
        piece({ hand: true, quiet: 20 }),
        piece({ stops: 1, missing: 0, conflicts: 2 }),
      ),
    ).toEqual(['stopped', 'calls', 'choose', 'sign', 'stuck']);
  });
});

describe('the board', () => {
  const on = (name: string, label: string | null, ...open: LiveAttempt[]): BoardBench => {
    const one = bench(name, open, label);
    return { bench: one, needs: needsOf(one, NOW) };
  };
  const board = [
    on('Dora', 'Bench 10'),
    on('Ana', null, piece({})),
    on('Cem', 'Bench 2', piece({ hand: true })),
    on('Ben', 'Bench 1', piece({ missing: 0 })),
  ];
  const names = (list: readonly BoardBench[]): string => list.map((b) => b.bench.tile.traineeName).join(' ');

  it('stands as entered, by the number of the bench, by name, or by need: at work before nothing open', () => {
    expect(names(inOrder(board, 'class'))).toBe('Dora Ana Cem Ben');
    expect(names(inOrder(board, 'bench'))).toBe('Ben Cem Dora Ana');
    expect(names(inOrder(board, 'name'))).toBe('Ana Ben Cem Dora');
    expect(names(inOrder(board, 'need'))).toBe('Cem Ben Ana Dora');
  });

  it('counts the benches that want each thing, and names nothing that none wants', () => {
    expect(countsOf(board)).toEqual([
      { kind: 'calls', n: 1 },
      { kind: 'sign', n: 1 },
      { kind: 'idle', n: 1 },
    ]);
  });
});
