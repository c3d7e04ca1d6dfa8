import { HAND_PART, resolveEntries, TIMER_PART } from './resolve-entries.ts';
import type { Entry } from './types.ts';

const isMark = (e: Entry): boolean => e.kind === 'hand' || e.kind === 'timer' || e.kind === 'retract';

/**
 * What stands at a bench beside its results: the raised hand that came first, and the running timers in the order of
 * their start. Both stand whoever entered them, witnessed or not, until they are taken back; two starts of the same
 * timer that do not know of each other count as one, the earlier. Domain: the entries of one attempt.
 */
export function atTheBench(entries: readonly Entry[]): {
  readonly hand: Entry | null;
  readonly timers: readonly Entry[];
} {
  const marks = entries.filter(isMark);
  if (marks.every((e) => e.kind === 'retract')) return NOTHING;
  const standing = [...resolveEntries(marks).values()].map(
    (s) => [...s.heads, ...s.proposals].sort(byTime)[0],
  );
  const found = standing.flatMap((e) => (e ? [e] : [])).sort(byTime);
  return {
    hand: found.find((e) => e.part === HAND_PART) ?? null,
    timers: found.filter((e) => e.part === TIMER_PART),
  };
}

const NOTHING = { hand: null, timers: [] } as const;
const byTime = (a: Entry, b: Entry): number =>
  a.at === b.at ? (a.id < b.id ? -1 : 1) : a.at < b.at ? -1 : 1;
