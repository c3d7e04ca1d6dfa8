import { buildPlan } from './build-plan.ts';
import { leastEnd } from './least-end.ts';
import type { DayPlan, DayWanted } from './types.ts';

export interface SearchOptions {
  /** Orders that are tried. */
  readonly tries: number;
  /** A number from 0 up to, not with, 1: the same ones give the same plan. */
  readonly random: () => number;
  /** Told now and then how far it is, 0 to 1; `false` ends the search with the best so far. */
  readonly progress?: (done: number) => boolean | void;
}

const TELL_EVERY = 50;

/** First come, first served: the pieces in their order, a step of each in turn. */
export function firstCome(day: DayWanted): DayPlan {
  return buildPlan(day, turnsOf(day));
}

function turnsOf(day: DayWanted): string[] {
  const longest = Math.max(0, ...day.pieces.map((p) => p.steps.length));
  return Array.from({ length: longest }, (_, i) =>
    day.pieces.flatMap((p) => (i < p.steps.length ? [p.id] : [])),
  ).flat();
}

/**
 * The best of many orders: those that people would take (first come, piece by piece, longest first), then one after another changed at a place,
 * kept where it is no worse. Fewer pieces left out count first, then an earlier end, then pieces that are done early. It ends sooner
 * where the plan reaches what no plan can beat (`leastEnd`).
 */
export function searchPlan(day: DayWanted, { tries, random, progress }: SearchOptions): DayPlan {
  const least = leastEnd(day).endsAt;
  const minutes = new Map(day.pieces.map((p) => [p.id, p.steps.reduce((sum, s) => sum + s.minutes, 0)]));
  const longestFirst = (ids: readonly string[]): string[] =>
    [...ids].sort((a, b) => minutes.get(b)! - minutes.get(a)!);
  const pieceByPiece = day.pieces.flatMap((p) => p.steps.map(() => p.id));
  const turns = turnsOf(day);
  const starts = [turns, pieceByPiece, longestFirst(pieceByPiece), longestFirst(turns)];
  let best = { order: turns, plan: buildPlan(day, turns) };
  for (const order of starts.slice(1)) {
    const plan = buildPlan(day, order);
    if (isBetter(plan, best.plan)) best = { order, plan };
  }
  for (let i = 0; i < tries; i++) {
    if (best.plan.left.length === 0 && best.plan.endsAt <= least) break;
    if (i % TELL_EVERY === 0 && progress?.(i / tries) === false) break;
    const order = changed(best.order, random);
    const plan = buildPlan(day, order);
    if (!isBetter(best.plan, plan)) best = { order, plan };
  }
  return best.plan;
}

function changed(order: readonly string[], random: () => number): string[] {
  const next = [...order];
  if (next.length < 2) return next;
  const [taken] = next.splice(Math.floor(random() * next.length), 1);
  next.splice(Math.floor(random() * (next.length + 1)), 0, taken!);
  return next;
}

/** Whether the first is better than the second. */
function isBetter(one: DayPlan, other: DayPlan): boolean {
  if (one.left.length !== other.left.length) return one.left.length < other.left.length;
  if (one.endsAt !== other.endsAt) return one.endsAt < other.endsAt;
  return sumOfEnds(one) < sumOfEnds(other);
}
const sumOfEnds = ({ work }: DayPlan): number => work.reduce((sum, w) => sum + w.to, 0);
