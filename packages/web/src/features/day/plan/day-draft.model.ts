import {
  dayWanted,
  type FixedStep,
  type Lot,
  minuteOf,
  type PieceStep,
  shortOfStock,
  type Skill,
  stretchedTo,
} from '@clear-mark/core';
import type {
  ClassDetail,
  CourseMethod,
  DayMethod,
  DayPiece,
  DayPlanBody,
  Stock,
  StockThing,
  Timed,
} from '@clear-mark/contract';

/** Kinds of equipment that wait in line. */
export const STATION_KINDS = ['splicer', 'cleaver', 'scope', 'instrument'] as const;
/** How careful a plan is with how long pieces take. */
export const PACES = ['median', 'slow'] as const;
export type Pace = (typeof PACES)[number];

/** The usual hours of a day; house. Walls of the class’s clock. */
const USUAL_HOURS = [
  ['08:30', '12:00'],
  ['12:45', '16:30'],
] as const;

/** A day that nobody has planned: the usual hours, everybody who teaches, all that is in use. */
export function emptyDay(
  day: string,
  detail: Pick<ClassDetail, 'instructors' | 'things'>,
  stock: Stock,
  /** What is connected as something else than a meter: no loss is read with it. */
  noMeters: readonly string[],
  benches: Readonly<Record<string, string>>,
  instantAt: (wall: string) => string,
): DayPlanBody {
  const inUse = detail.things.filter((t) => !t.retired && !noMeters.includes(t.id));
  const stations: Record<string, string[]> = {};
  for (const kind of STATION_KINDS) {
    const ids = inUse.filter((t) => t.kind === kind).map((t) => t.id);
    if (ids.length > 0) stations[kind] = ids;
  }
  return {
    hours: USUAL_HOURS.map((span) => ({
      from: instantAt(`${day}T${span[0]}`),
      to: instantAt(`${day}T${span[1]}`),
    })),
    stations,
    ovens: ovensOf(stock.things),
    instructors: detail.instructors.map((p) => p.id),
    benches: { ...benches },
    pieces: [],
    away: [],
    locks: [],
    plan: null,
    version: 0,
  };
}

/** A rest that nobody set; house. */
const USUAL_REST = 5;
/** Ovens as they are set; one that has no places yet takes nothing. */
export const ovensOf = (things: readonly StockThing[]): DayPlanBody['ovens'] =>
  things
    .filter((t) => t.kind === 'oven' && !t.retired)
    .map(({ id, settings }) => ({
      id,
      places: { hanging: settings.hanging ?? 0, flat: (settings.flat ?? 0) * (settings.trays ?? 1) },
      trays: settings.trays ?? 1,
      rest: settings.restMinutes ?? USUAL_REST,
    }));

/** How long a trainee’s pieces by a method take, and whose figures these are. */
export function timingOf(
  method: DayMethod,
  traineeId: string,
): { readonly timed: Timed | null; readonly of: 'trainee' | 'class' | 'house' } {
  const own = method.trainees[traineeId];
  if (own) return { timed: own, of: 'trainee' };
  return method.class ? { timed: method.class, of: 'class' } : { timed: null, of: 'house' };
}

/** The steps of a piece for a trainee; what it uses that is good until a minute of the day has to be used by then. */
export function stepsFor(
  method: DayMethod,
  traineeId: string,
  pace: Pace,
  goodUntil: number | null,
): PieceStep[] {
  const { timed } = timingOf(method, traineeId);
  const steps = timed ? stretchedTo(method.steps, pace === 'median' ? timed.median : timed.to) : method.steps;
  return steps.map((step, i) =>
    i === method.glueStep && goodUntil !== null && step.kind === 'work'
      ? { ...step, by: goodUntil }
      : { ...step },
  );
}

/** Lots that stand in the stock, as pieces take from them. */
export const lotsOf = (things: readonly StockThing[]): Lot[] =>
  things.flatMap(({ id, settings, left, goodUntil, openedAt, retired }) =>
    settings.item === null || left === null || retired
      ? []
      : [
          {
            id,
            item: settings.item,
            left,
            goodUntilMs: goodUntil === null ? null : Date.parse(goodUntil),
            isOpened: openedAt !== null,
          },
        ],
  );

/**
 * Until which minute of the day the adhesives of a method are good: the earliest over its items of the latest lot of each; null where that is
 * after the day, or nothing is counted.
 */
export function goodUntilOf(
  method: DayMethod,
  lots: readonly Lot[],
  day: Pick<DayPlanBody, 'hours'>,
): number | null {
  if (method.glueStep === null) return null;
  const ends = method.needs.flatMap(({ item }) => {
    const ofItem = lots.filter((l) => l.item === item && l.left > 0);
    return ofItem.length === 0 ? [] : [Math.max(...ofItem.map((l) => l.goodUntilMs ?? Infinity))];
  });
  const earliest = Math.min(Infinity, ...ends);
  if (earliest >= Date.parse(day.hours.at(-1)!.to)) return null;
  return minuteOf(day, new Date(earliest).toISOString());
}

/** Pieces of the list for which the stock does not reach, with what is short. */
export function stockShorts(
  day: DayPlanBody,
  methods: readonly DayMethod[],
  lots: readonly Lot[],
): { readonly pieceId: string; readonly items: readonly string[] }[] {
  const needs = new Map(methods.map((m) => [m.versionId, m.needs]));
  const pieces = day.pieces.map((p) => ({ id: p.id, needs: needs.get(p.methodVersionId) ?? [] }));
  return shortOfStock(lots, pieces, Date.parse(day.hours[0]!.from)).map(({ piece, short }) => ({
    pieceId: piece.id,
    items: short,
  }));
}

/** The method in use that practises a skill most, and takes least time for it. */
export function methodForSkill(methods: readonly DayMethod[], skill: Skill): DayMethod | null {
  const minutes = (m: DayMethod): number => m.steps.reduce((sum, s) => sum + s.minutes, 0);
  const place = (m: DayMethod): number => m.skills.indexOf(skill);
  const fitting = methods.filter((m) => place(m) >= 0);
  return [...fitting].sort((a, b) => place(a) - place(b) || minutes(a) - minutes(b))[0] ?? null;
}

/** What trainees have left of the course: good pieces that are asked for, less those that passed and those of this day, at most `most` a method. */
export function leftOfCourse(
  course: readonly CourseMethod[],
  methods: readonly DayMethod[],
  day: DayPlanBody,
  traineeIds: readonly string[],
  most: number,
): { readonly method: DayMethod; readonly traineeId: string; readonly count: number }[] {
  return course.flatMap(({ methodId, pieces, made }) => {
    const method = methods.find((m) => m.methodId === methodId);
    if (!method) return [];
    return traineeIds.flatMap((traineeId) => {
      const planned = day.pieces.filter(
        (p) => p.traineeId === traineeId && p.methodVersionId === method.versionId,
      ).length;
      const count = Math.min(most, (pieces ?? 0) - (made[traineeId] ?? 0) - planned);
      return count > 0 ? [{ method, traineeId, count }] : [];
    });
  });
}

/** Without these pieces: nothing of them stays, in the plan neither. */
export function withoutPieces(day: DayPlanBody, isGone: (piece: DayPiece) => boolean): DayPlanBody {
  const pieces = day.pieces.filter((p) => !isGone(p));
  const known = new Set(pieces.map((p) => p.id));
  return {
    ...day,
    pieces,
    locks: day.locks.filter((l) => known.has(l.pieceId)),
    plan:
      day.plan &&
      withEnd({
        work: day.plan.work.filter((w) => known.has(w.pieceId)),
        loads: day.plan.loads.flatMap((load) => {
          const members = load.members.filter((m) => known.has(m.pieceId));
          return members.length === 0 ? [] : [{ ...load, members }];
        }),
        left: day.plan.left.filter((id) => known.has(id)),
        endsAt: 0,
      }),
  };
}

/** The plan with its end as it is. */
export const withEnd = (plan: NonNullable<DayPlanBody['plan']>): NonNullable<DayPlanBody['plan']> => ({
  ...plan,
  endsAt: Math.max(0, ...plan.work.map((w) => w.to), ...plan.loads.map((l) => l.to)),
});

/** From when on a day is planned again, and who has done less than planned by then, by how many minutes. */
export interface FromNow {
  readonly minute: number;
  readonly lateBy: ReadonlyMap<string, number>;
}

/** What stays where it is: locked steps, and from a minute on what was begun before it; who is late by some minutes has done less. */
export function fixedSteps(day: DayPlanBody, from: FromNow | null): FixedStep[] {
  const { plan } = day;
  if (!plan) return [];
  const traineeOf = new Map(day.pieces.map((p) => [p.id, p.traineeId]));
  const isLocked = (pieceId: string, step: number): boolean =>
    day.locks.some((l) => l.pieceId === pieceId && l.step === step);
  const isBegun = (pieceId: string, span: { from: number; to: number }): boolean => {
    if (!from) return false;
    const late = from.lateBy.get(traineeOf.get(pieceId) ?? '') ?? 0;
    return late > 0 ? span.to <= from.minute - late : span.from < from.minute;
  };
  const isCut = (w: NonNullable<DayPlanBody['plan']>['work'][number]): boolean => {
    if (!from || w.to <= from.minute) return false;
    const step = day.pieces.find((p) => p.id === w.pieceId)?.steps[w.step];
    return day.away.some(({ of, from: begins, to }) => {
      if (begins >= w.to || to <= w.from) return false;
      if (of.kind === 'trainee') return of.id === traineeOf.get(w.pieceId);
      if (of.kind === 'instructor') return of.unit === w.instructor;
      return of.kind === 'station' && step?.kind === 'work' && of.id === step.station && of.unit === w.unit;
    });
  };
  const work = plan.work
    .filter((w) => isLocked(w.pieceId, w.step) || (isBegun(w.pieceId, w) && !isCut(w)))
    .map((w): FixedStep => ({ kind: 'work', work: w }));
  const loads = plan.loads
    .filter(
      (l) => l.members.some((m) => isLocked(m.pieceId, m.step)) || (from !== null && l.from < from.minute),
    )
    .map((load): FixedStep => ({ kind: 'load', load }));
  return [...work, ...loads];
}

/** The day as the core plans it, with what is fixed. */
export function wantedOf(day: DayPlanBody, from: FromNow | null = null) {
  const fixed = fixedSteps(day, from);
  return dayWanted(day, {
    ...(fixed.length > 0 ? { fixed } : {}),
    ...(from ? { notBefore: from.minute } : {}),
  });
}

/** A day with other stations or instructors: its plan keeps who and what is still there at its new number; what is gone is told as a conflict. */
export function renumbered(
  day: DayPlanBody,
  next: Pick<DayPlanBody, 'stations' | 'instructors' | 'ovens'>,
): DayPlanBody {
  const placeIn = (
    before: readonly string[],
    after: readonly string[],
    unit: number | null,
  ): number | null => {
    if (unit === null) return null;
    const at = after.indexOf(before[unit - 1] ?? '');
    return at < 0 ? after.length + 1 : at + 1;
  };
  const stationOf = (pieceId: string, step: number): string => {
    const found = day.pieces.find((p) => p.id === pieceId)?.steps[step];
    return found?.kind === 'work' ? (found.station ?? '') : '';
  };
  const plan = day.plan && {
    ...day.plan,
    work: day.plan.work.map((w) => {
      const kind = stationOf(w.pieceId, w.step);
      return {
        ...w,
        unit: placeIn(day.stations[kind] ?? [], next.stations[kind] ?? [], w.unit),
        instructor: placeIn(day.instructors, next.instructors, w.instructor),
      };
    }),
  };
  return { ...day, ...next, plan };
}
