import type { TodayTile } from '@clear-mark/contract';
import { agoWords } from '../../shared/time-words.ts';
import { dueOf } from '../../classroom/timers.model.ts';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import type { Bench } from './today.model.ts';

/** What a bench may want of the instructor, the most pressing first. */
export const NEEDS = ['stopped', 'calls', 'timer', 'choose', 'sign', 'stuck', 'finishing', 'idle'] as const;
export type NeedKind = (typeof NEEDS)[number];

/** What each need is called in the filter of the board. */
export const NEED_WORDS: Readonly<Record<NeedKind, string>> = {
  stopped: 'Stopped',
  calls: 'Calls',
  timer: 'Timer ends',
  choose: 'Two results',
  sign: 'Ready to sign',
  stuck: 'No entry for long',
  finishing: 'Nearly done',
  idle: 'Nothing open',
};

/** Minutes without an entry after which a piece is taken to be stuck; a figure of the house. */
export const STUCK_MINUTES = 12;
/** A piece with at most so many required results open is nearly done; a figure of the house. */
export const NEARLY_DONE = 3;

export interface Need {
  readonly kind: NeedKind;
  /** What the tile says about it; empty where the tile shows it in a form of its own. */
  readonly words: string;
}

function needsOfPiece(a: LiveAttempt, nowMs: number): Need[] {
  const needs: Need[] = [];
  const quietMs = nowMs - a.lastEntryAt;
  const waits = a.timers.map((t) => dueOf(t, nowMs));
  const left = a.outcome.missing.length;
  if ((a.outcome.stops?.length ?? 0) > 0) needs.push({ kind: 'stopped', words: '' });
  if (a.hand) needs.push({ kind: 'calls', words: '' });
  if (waits.some((d) => d.due)) needs.push({ kind: 'timer', words: '' });
  if (a.outcome.conflicts.length > 0) needs.push({ kind: 'choose', words: 'Two results: choose one' });
  if (left === 0) needs.push({ kind: 'sign', words: 'Ready to sign' });
  // Whatever cures or is waited for is no standstill.
  else if (waits.length === 0 && quietMs >= STUCK_MINUTES * 60_000) {
    needs.push({ kind: 'stuck', words: `No entry for ${agoWords(a.lastEntryAt, nowMs)}` });
  } else if (left <= NEARLY_DONE) {
    needs.push({ kind: 'finishing', words: left === 1 ? '1 result to go' : `${left} results to go` });
  }
  return needs;
}

/** All that a bench wants, the most pressing first. `nowMs` is the server's time as this device knows it. */
export function needsOf({ open }: Bench, nowMs: number): Need[] {
  if (open.length === 0) return [{ kind: 'idle', words: '' }];
  const all = open.flatMap((a) => needsOfPiece(a, nowMs));
  return NEEDS.flatMap((kind) => all.find((n) => n.kind === kind) ?? []);
}

export const BOARD_ORDERS = ['class', 'bench', 'name', 'need'] as const;
export type BoardOrder = (typeof BOARD_ORDERS)[number];
export const ORDER_WORDS: Readonly<Record<BoardOrder, string>> = {
  class: 'as entered',
  bench: 'by bench',
  name: 'by name',
  need: 'by need',
};

export interface BoardBench {
  readonly bench: Bench;
  readonly needs: readonly Need[];
}

const pressing = ({ needs }: BoardBench): number =>
  needs[0] ? NEEDS.indexOf(needs[0].kind) : NEEDS.length - 1.5;
const byText = (one: string, other: string): number => one.localeCompare(other, undefined, { numeric: true });
const benchOf = ({ benchLabel }: TodayTile): string => benchLabel ?? '￿';

/** The benches in the order that was chosen; equal ones stay in the class's order. */
export function inOrder(benches: readonly BoardBench[], order: BoardOrder): readonly BoardBench[] {
  if (order === 'class') return benches;
  const compare: Readonly<Record<Exclude<BoardOrder, 'class'>, (a: BoardBench, b: BoardBench) => number>> = {
    bench: (a, b) => byText(benchOf(a.bench.tile), benchOf(b.bench.tile)),
    name: (a, b) => byText(a.bench.tile.traineeName, b.bench.tile.traineeName),
    need: (a, b) => pressing(a) - pressing(b),
  };
  return [...benches].sort(compare[order]);
}

/** How many benches want each thing, without those that none wants. */
export const countsOf = (benches: readonly BoardBench[]): { kind: NeedKind; n: number }[] =>
  NEEDS.map((kind) => ({
    kind,
    n: benches.filter((b) => b.needs.some((d) => d.kind === kind)).length,
  })).filter(({ n }) => n > 0);
