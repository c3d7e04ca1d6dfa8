import { buildPlan, type KeptPlaces, placeKey } from './build-plan.ts';
import { orderOf, searchPlan, type SearchOptions } from './search-plan.ts';
import type { DayPlan, DayWanted, PlannedLoad, PlannedWork } from './types.ts';

/** A step that lies elsewhere than before; `was` null where it is new. Minutes since the day began. */
export interface MovedStep {
  readonly pieceId: string;
  readonly step: number;
  readonly from: number;
  readonly was: number | null;
}
export interface Replanned {
  readonly plan: DayPlan;
  readonly moved: readonly MovedStep[];
}

/**
 * A plan for a day that came differently, close to the one before: the same order, no step earlier than it was, at the same station
 * and with the same instructor where they are there, loads with the same members. What is `fixed` stays, what is `away` is not used, nothing new
 * begins before `notBefore`. Only where pieces would be left out that way is the rest of the day searched anew, and taken if fewer are.
 */
export function replan(day: DayWanted, before: DayPlan, options: SearchOptions): Replanned {
  const known = new Set(day.pieces.map((p) => p.id));
  const order = orderOf(before).filter((id) => known.has(id));
  const close = buildPlan(day, order, keptPlaces(day, before));
  const plan =
    close.left.length === 0 ? close : fewerLeft(close, buildPlan(day, order), () => searchPlan(day, options));
  return { plan, moved: movedSteps(before, plan) };
}

function fewerLeft(close: DayPlan, earlier: DayPlan, searched: () => DayPlan): DayPlan {
  if (earlier.left.length < close.left.length && earlier.left.length === 0) return earlier;
  const found = searched();
  const best = found.left.length < earlier.left.length ? found : earlier;
  return best.left.length < close.left.length ? best : close;
}

/** Steps of a plan by their place; of a load only those that its day still wants. */
function keptPlaces(day: DayWanted, before: DayPlan): KeptPlaces {
  const known = new Set(day.pieces.map((p) => p.id));
  const isFixed = new Set(
    (day.fixed ?? []).flatMap((f) =>
      f.kind === 'work'
        ? [placeKey(f.work.pieceId, f.work.step)]
        : f.load.members.map((m) => placeKey(m.pieceId, m.step)),
    ),
  );
  const work = new Map<string, PlannedWork>(before.work.map((w) => [placeKey(w.pieceId, w.step), w]));
  const loads = new Map<string, PlannedLoad>();
  for (const load of before.loads) {
    const members = load.members.filter(
      (m) => known.has(m.pieceId) && !isFixed.has(placeKey(m.pieceId, m.step)),
    );
    for (const m of members) loads.set(placeKey(m.pieceId, m.step), { ...load, members });
  }
  return { work, loads };
}

/** Steps that lie at another time or at another station or oven in the second plan than in the first, in the order of their time. */
export function movedSteps(before: DayPlan, after: DayPlan): MovedStep[] {
  const was = new Map(placesOf(before).map((s) => [placeKey(s.pieceId, s.step), s]));
  return placesOf(after)
    .flatMap(({ pieceId, step, from, at }): MovedStep[] => {
      const old = was.get(placeKey(pieceId, step));
      return old?.from === from && old.at === at ? [] : [{ pieceId, step, from, was: old?.from ?? null }];
    })
    .sort((a, b) => a.from - b.from);
}
const placesOf = (plan: DayPlan) => [
  ...plan.work.map(({ pieceId, step, from, unit }) => ({ pieceId, step, from, at: String(unit) })),
  ...plan.loads.flatMap(({ members, from, ovenId }) =>
    members.map(({ pieceId, step }) => ({ pieceId, step, from, at: ovenId })),
  ),
];
