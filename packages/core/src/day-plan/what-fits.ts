import { aloneEnd, leastEnd } from './least-end.ts';
import { searchPlan, type SearchOptions } from './search-plan.ts';
import type { DayPlan, DayWanted, Oven, PieceWanted, Span } from './types.ts';

/** Why a piece is not in a plan. */
export type WhyLeft =
  | { readonly why: 'no_oven'; readonly way: string }
  | { readonly why: 'no_station'; readonly station: string }
  | { readonly why: 'no_instructor' | 'no_room' | 'not_planned' }
  | { readonly why: 'step_too_long'; readonly minutes: number; readonly longest: number }
  | { readonly why: 'too_long'; readonly minutes: number; readonly hours: number }
  | { readonly why: 'used_by'; readonly by: number };

/**
 * What keeps a piece out of the day: what it needs and nobody has, what it takes alone, or only the others. Where it would fit after all that is
 * planned until `plannedTo`, in minutes, nobody has planned with it yet.
 */
export function whyLeft(day: DayWanted, piece: PieceWanted, plannedTo = Infinity): WhyLeft {
  const longest = Math.max(0, ...day.hours.map((h) => h.to - h.from));
  for (const step of piece.steps) {
    if (step.kind === 'cure') {
      if (!day.ovens.some((o) => o.places[step.way] > 0)) return { why: 'no_oven', way: step.way };
      continue;
    }
    if (step.station !== null && !((day.stations[step.station] ?? 0) > 0))
      return { why: 'no_station', station: step.station };
    if (step.watched > 0 && day.instructors === 0) return { why: 'no_instructor' };
    if (step.minutes > longest) return { why: 'step_too_long', minutes: step.minutes, longest };
  }
  const ends = aloneEnd(day, piece);
  const dayEnds = day.hours.at(-1)?.to ?? 0;
  if (ends > dayEnds) {
    const minutes = piece.steps.reduce((sum, s) => sum + s.minutes, 0);
    return { why: 'too_long', minutes, hours: day.hours.reduce((sum, h) => sum + h.to - h.from, 0) };
  }
  const until = piece.steps.findIndex((s) => s.kind === 'work' && s.by !== undefined);
  const step = piece.steps[until];
  if (step?.kind === 'work' && step.by !== undefined) {
    if (aloneEnd(day, { ...piece, steps: piece.steps.slice(0, until + 1) }) > step.by)
      return { why: 'used_by', by: step.by };
  }
  const after = day.hours
    .map(({ from, to }) => ({ from: Math.max(from, plannedTo), to }))
    .filter(({ from, to }) => from < to);
  const isRoom = after.length > 0 && aloneEnd({ ...day, hours: after }, piece) <= dayEnds;
  return { why: isRoom ? 'not_planned' : 'no_room' };
}

/** Something that could be different about a day, the cheapest first. */
export const DAY_CHANGES = [
  'station',
  'half_hour',
  'hour',
  'oven',
  'instructor',
  'second_day',
  'shorter_list',
] as const;
export type DayChange =
  | { readonly change: 'station'; readonly station: string }
  | { readonly change: 'half_hour' | 'hour' | 'oven' | 'instructor' | 'second_day' }
  | { readonly change: 'shorter_list'; readonly pieces: number };
/** A change with what is still left out under it, and when the day ends then. */
export interface TriedChange {
  readonly change: DayChange;
  readonly left: number;
  readonly endsAt: number;
}

/**
 * What would make everything fit: each change alone is planned, from the cheapest on (house order: borrow a station, stay longer, one more
 * oven, one more instructor, a second day, a shorter list). Ends with the first under which nothing is left out, which is the last of what it gives.
 */
export function changesThatFit(day: DayWanted, plan: DayPlan, options: SearchOptions): TriedChange[] {
  const tried: TriedChange[] = [];
  if (plan.left.length === 0) return tried;
  for (const { change, day: other } of otherDays(day, plan)) {
    const found = searchPlan(other, options);
    tried.push({ change, left: found.left.length, endsAt: found.endsAt });
    if (found.left.length === 0) return tried;
  }
  const pieces = plan.left.length;
  tried.push({ change: { change: 'shorter_list', pieces }, left: 0, endsAt: plan.endsAt });
  return tried;
}

function* otherDays(day: DayWanted, plan: DayPlan): Generator<{ change: DayChange; day: DayWanted }> {
  const left = day.pieces.filter((p) => plan.left.includes(p.id));
  const steps = left.flatMap((p) => p.steps);
  const stations = new Set(
    steps.flatMap((s) => (s.kind === 'work' && s.station !== null ? [s.station] : [])),
  );
  for (const station of stations) {
    const more = { ...day.stations, [station]: (day.stations[station] ?? 0) + 1 };
    yield { change: { change: 'station', station }, day: { ...day, stations: more } };
  }
  yield { change: { change: 'half_hour' }, day: { ...day, hours: longer(day.hours, 30) } };
  yield { change: { change: 'hour' }, day: { ...day, hours: longer(day.hours, 60) } };
  if (steps.some((s) => s.kind === 'cure'))
    yield { change: { change: 'oven' }, day: { ...day, ovens: [...day.ovens, oneMore(day.ovens)] } };
  if (steps.some((s) => s.kind === 'work' && s.watched > 0))
    yield { change: { change: 'instructor' }, day: { ...day, instructors: day.instructors + 1 } };
  const { hours, stations: present, ovens, instructors } = day;
  yield {
    change: { change: 'second_day' },
    day: { hours, stations: present, ovens, instructors, pieces: left },
  };
}

const longer = (hours: readonly Span[], minutes: number): Span[] =>
  hours.map((h, i) => (i === hours.length - 1 ? { from: h.from, to: h.to + minutes } : h));

/** One more of the largest that there is; of a common size where there is none (common practice: a dozen hanging). */
function oneMore(ovens: readonly Oven[]): Oven {
  const sizes = ovens.map((o) => o.places);
  const places =
    sizes.length === 0
      ? { hanging: 12, flat: 4 }
      : {
          hanging: Math.max(...sizes.map((p) => p.hanging)),
          flat: Math.max(...sizes.map((p) => p.flat)),
        };
  return { id: 'one-more', places, rest: ovens[0]?.rest ?? 5 };
}

/** How much longer than the bound a plan takes: 0.1 for a tenth; 0 where nothing is planned or the bound is reached. */
export function overBound(day: DayWanted, plan: DayPlan): number {
  const planned = { ...day, pieces: day.pieces.filter((p) => !plan.left.includes(p.id)) };
  const { endsAt } = leastEnd(planned);
  return endsAt > 0 && Number.isFinite(endsAt) ? Math.max(0, plan.endsAt / endsAt - 1) : 0;
}
