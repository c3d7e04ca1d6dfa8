import { buildPlan } from './build-plan.ts';
import { dispatchPlan, type DispatchRule } from './dispatch-plan.ts';
import { leastEnd } from './least-end.ts';
import type { DayPlan, DayWanted } from './types.ts';

export interface SearchOptions {
  /** Orders that are tried. */
  readonly tries: number;
  /** A number from 0 up to, not with, 1: the same ones give the same plan. */
  readonly random: () => number;
  /** Told now and then how far it is, 0 to 1, with the best so far; `false` ends the search with that. */
  readonly progress?: (done: number, best: DayPlan) => boolean | void;
}

const TELL_EVERY = 20;

/** Tries by which 200 pieces take less than 200 plans of first come; smaller days get more of them. */
export const usualTries = (pieces: number): number =>
  Math.min(2000, Math.max(170, Math.round(36_000 / Math.max(1, pieces))));

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

/** Rules that a dispatcher is tried with first: how long loads wait, and how full they get at the most. */
const FIRST_RULES = [0, 8, 20, 30].flatMap((wait) => [Infinity, 6].map((most) => ({ wait, most })));
const LONGEST_WAIT = 30;
const MOST_IN_A_LOAD = 12;
/** By so much a bias goes up or down at the most, minutes. */
const MOST_BIAS = 40;
/** A plan of the dispatcher costs so many plans from an order (measured). */
const DISPATCH_COSTS = 2.5;

/**
 * The best of many plans. First the orders that people would take (first come, piece by piece, longest first) and a dispatcher
 * (`dispatchPlan`) under several rules; then the better ones of both are changed in one place after another and kept where that is no worse. Fewer
 * pieces left out count first, then an earlier end, then pieces that are done early. It ends sooner where the plan reaches what
 * no plan can beat (`leastEnd`).
 */
export function searchPlan(day: DayWanted, { tries, random, progress }: SearchOptions): DayPlan {
  const least = leastEnd(day).endsAt;
  const orders = new OrderSearch(day, random);
  const rules = isDispatched(day) ? new RuleSearch(day, random) : null;
  const best = (): DayPlan =>
    rules?.best && isBetter(rules.best.plan, orders.best.plan) ? rules.best.plan : orders.best.plan;
  let spent = rules ? rules.first() * DISPATCH_COSTS : 0;
  const half = tries * 0.85;
  let told = 0;
  while (spent < tries) {
    const plan = best();
    if (plan.left.length === 0 && plan.endsAt <= least) break;
    if (told++ % TELL_EVERY === 0 && progress?.(spent / tries, plan) === false) break;
    const isDispatching = rules?.best && spent < half;
    if (isDispatching) rules.step();
    else orders.step();
    spent += isDispatching ? DISPATCH_COSTS : 1;
    // What the dispatcher found goes on as an order.
    if (isDispatching && spent >= half) orders.take(orderOf(rules.best!.plan));
  }
  return best();
}

/** Whether nothing is fixed, away or over yet. */
const isDispatched = (day: DayWanted): boolean =>
  day.notBefore === undefined && (day.fixed ?? []).length === 0 && (day.away ?? []).length === 0;

class OrderSearch {
  best: { order: readonly string[]; plan: DayPlan };

  constructor(
    private readonly day: DayWanted,
    private readonly random: () => number,
  ) {
    const minutes = new Map(day.pieces.map((p) => [p.id, p.steps.reduce((sum, s) => sum + s.minutes, 0)]));
    const longestFirst = (ids: readonly string[]): string[] =>
      [...ids].sort((a, b) => minutes.get(b)! - minutes.get(a)!);
    const pieceByPiece = day.pieces.flatMap((p) => p.steps.map(() => p.id));
    const turns = turnsOf(day);
    this.best = { order: turns, plan: buildPlan(day, turns) };
    for (const order of [pieceByPiece, longestFirst(pieceByPiece), longestFirst(turns)]) this.take(order);
  }
  take(order: readonly string[]): void {
    const plan = buildPlan(this.day, order);
    if (!isBetter(this.best.plan, plan)) this.best = { order, plan };
  }
  step(): void {
    this.take(changed(this.best.order, this.random));
  }
}

class RuleSearch {
  best: { rule: DispatchRule; plan: DayPlan } | null = null;

  constructor(
    private readonly day: DayWanted,
    private readonly random: () => number,
  ) {}
  /** Tries the first rules; gives how many. */
  first(): number {
    const bias = this.day.pieces.map(() => 0);
    for (const rule of FIRST_RULES) this.take({ ...rule, bias });
    return FIRST_RULES.length;
  }
  step(): void {
    const { random } = this;
    const { bias, wait, most } = this.best!.rule;
    const next = [...bias];
    const changes = 1 + Math.floor(random() * Math.max(1, next.length / 12));
    for (let i = 0; i < changes; i++)
      next[Math.floor(random() * next.length)] = (random() * 2 - 1) * MOST_BIAS;
    this.take({
      bias: next,
      wait: random() < 0.15 ? Math.floor(random() * (LONGEST_WAIT + 1)) : wait,
      most: random() < 0.1 ? 2 + Math.floor(random() * (MOST_IN_A_LOAD - 1)) : most,
    });
  }
  private take(rule: DispatchRule): void {
    const plan = dispatchPlan(this.day, rule);
    if (plan && (!this.best || !isBetter(this.best.plan, plan))) this.best = { rule, plan };
  }
}

/** The order in which a plan takes its steps; a load where it goes in. */
export function orderOf(plan: DayPlan): string[] {
  const steps = [
    ...plan.work.map((w) => ({ id: w.pieceId, step: w.step, at: w.from })),
    ...plan.loads.flatMap((l) => l.members.map((m) => ({ id: m.pieceId, step: m.step, at: l.from }))),
  ];
  return steps.sort((a, b) => a.at - b.at || a.step - b.step).map((s) => s.id);
}

function changed(order: readonly string[], random: () => number): string[] {
  const next = [...order];
  if (next.length < 2) return next;
  const [taken] = next.splice(Math.floor(random() * next.length), 1);
  next.splice(Math.floor(random() * (next.length + 1)), 0, taken!);
  return next;
}

/** Whether the first is better than the second. */
export function isBetter(one: DayPlan, other: DayPlan): boolean {
  if (one.left.length !== other.left.length) return one.left.length < other.left.length;
  if (one.endsAt !== other.endsAt) return one.endsAt < other.endsAt;
  return sumOfEnds(one) < sumOfEnds(other);
}
const sumOfEnds = ({ work }: DayPlan): number => work.reduce((sum, w) => sum + w.to, 0);
