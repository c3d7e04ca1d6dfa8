import { minuteOf, type OvenWay } from '@clear-mark/core';
import type { DayLoad, DayMethod, DayPlanBody, PlannedDay } from '@clear-mark/contract';

export interface PlannedNow {
  readonly pieceId: string;
  readonly versionId: string;
  readonly name: string;
  readonly from: number;
  readonly to: number;
  /** The thing it is done at; null at the bench. */
  readonly thingId: string | null;
}
export interface TraineeNow {
  readonly traineeId: string;
  readonly now: PlannedNow | null;
  readonly next: PlannedNow | null;
}
export interface StationNow {
  readonly thingId: string;
  /** Whose turn it is; null while nobody is planned there. */
  readonly now: string | null;
  readonly next: { readonly traineeId: string; readonly from: number } | null;
}
export interface LoadNow {
  readonly ovenId: string;
  readonly schedule: string;
  readonly minutes: number;
  readonly from: number;
  readonly traineeIds: readonly string[];
  readonly way: OvenWay;
}

const stepsOf = (day: DayPlanBody, traineeId: string): PlannedNow[] => {
  const own = new Map(day.pieces.filter((p) => p.traineeId === traineeId).map((p) => [p.id, p]));
  return (day.plan?.work ?? [])
    .flatMap((w): PlannedNow[] => {
      const piece = own.get(w.pieceId);
      const step = piece?.steps[w.step];
      if (!piece || step?.kind !== 'work') return [];
      const station =
        step.station === null || w.unit === null ? undefined : day.stations[step.station]?.[w.unit - 1];
      return [
        {
          pieceId: w.pieceId,
          versionId: piece.methodVersionId,
          name: step.name,
          from: w.from,
          to: w.to,
          thingId: station ?? null,
        },
      ];
    })
    .sort((a, b) => a.from - b.from);
};

/** What each trainee should be doing at a minute of the day, and what comes next. */
export function traineesNow(day: DayPlanBody, minute: number): TraineeNow[] {
  return [...new Set(day.pieces.map((p) => p.traineeId))].map((traineeId) => {
    const steps = stepsOf(day, traineeId);
    return {
      traineeId,
      now: steps.find((s) => s.from <= minute && minute < s.to) ?? null,
      next: steps.find((s) => s.from > minute) ?? null,
    };
  });
}

/** Whose turn it is at each station, and for whom it is next. */
export function stationsNow(day: DayPlanBody, minute: number): StationNow[] {
  const traineeOf = new Map(day.pieces.map((p) => [p.id, p.traineeId]));
  const all = [...new Set(day.pieces.map((p) => p.traineeId))].flatMap((id) => stepsOf(day, id));
  return Object.values(day.stations)
    .flat()
    .flatMap((thingId): StationNow[] => {
      const own = all.filter((s) => s.thingId === thingId).sort((a, b) => a.from - b.from);
      if (own.length === 0) return [];
      const now = own.find((s) => s.from <= minute && minute < s.to);
      const next = own.find((s) => s.from > minute);
      return [
        {
          thingId,
          now: now ? traineeOf.get(now.pieceId)! : null,
          next: next ? { traineeId: traineeOf.get(next.pieceId)!, from: next.from } : null,
        },
      ];
    });
}

/** Loads that are planned and were not put in yet: each load that was begun stands for the first planned one of its oven and schedule. */
export function loadsToCome(day: DayPlanBody, begun: readonly DayLoad[]): LoadNow[] {
  const traineeOf = new Map(day.pieces.map((p) => [p.id, p.traineeId]));
  const spent = begun.map((l) => `${l.ovenId} ${l.schedule}`);
  const rising = [...(day.plan?.loads ?? [])].sort((a, b) => a.from - b.from);
  return rising.flatMap((load): LoadNow[] => {
    const at = spent.indexOf(`${load.ovenId} ${load.schedule}`);
    if (at >= 0) {
      spent.splice(at, 1);
      return [];
    }
    return [
      {
        ovenId: load.ovenId,
        schedule: load.schedule,
        minutes: load.to - load.from,
        from: load.from,
        traineeIds: load.members.flatMap((m) => traineeOf.get(m.pieceId) ?? []),
        way: load.way,
      },
    ];
  });
}

/** Loads that are in an oven, what is due first. Seconds left; under 0 once they are to be taken out. */
export const loadsInside = (loads: readonly DayLoad[], nowMs: number) =>
  loads
    .filter((l) => l.takenOutAt === null)
    .map((load) => ({ load, left: Math.round((Date.parse(load.endsAt) - nowMs) / 1000) }))
    .sort((a, b) => a.left - b.left);

/** Now as a minute of a day. */
export const minuteNow = (day: DayPlanBody, nowMs: number): number =>
  minuteOf(day, new Date(nowMs).toISOString());

/** Who lies on which tray: in their order, each tray filled before the next. One list where there is one tray. */
export function traysOf(ids: readonly string[], oven: DayPlanBody['ovens'][number] | undefined): string[][] {
  const each = oven && oven.trays > 1 ? oven.places.flat / oven.trays : ids.length;
  const trays: string[][] = [];
  for (let at = 0; at < ids.length; at += Math.max(1, each))
    trays.push(ids.slice(at, at + Math.max(1, each)));
  return trays;
}

/** An open piece as far as it got: the number of its first step of the sheet that is not done, from 1. */
export interface OpenPiece {
  readonly traineeId: string;
  readonly versionId: string;
  readonly stepNumber: number;
}

/**
 * By how many minutes of the day's hours each trainee is behind the plan, read from what is open and signed: the step at which they are
 * should have ended, or the piece that is next should have begun. Those who are not behind are not in it.
 */
export function behindNow(
  day: DayPlanBody,
  minute: number,
  open: readonly OpenPiece[],
  signed: PlannedDay['signed'],
  methods: readonly Pick<DayMethod, 'versionId' | 'places'>[],
): Map<string, number> {
  const behind = new Map<string, number>();
  for (const traineeId of new Set(day.pieces.map((p) => p.traineeId))) {
    const done = new Map(
      signed.filter((s) => s.traineeId === traineeId).map((s) => [s.versionId, s.n] as const),
    );
    const next = piecesInTurn(day, traineeId).find((p) => {
      const n = done.get(p.versionId) ?? 0;
      if (n > 0) done.set(p.versionId, n - 1);
      return n === 0;
    });
    if (!next) continue;
    const at = open.find((o) => o.traineeId === traineeId && o.versionId === next.versionId);
    const places = methods.find((m) => m.versionId === next.versionId)?.places ?? [];
    const step = at ? (places[at.stepNumber - 1] ?? 0) : null;
    const due = step === null ? next.from : (next.ends.get(step) ?? next.from);
    const late = workedBetween(day, due, minute);
    if (late > 0) behind.set(traineeId, late);
  }
  return behind;
}

interface PieceInTurn {
  readonly versionId: string;
  readonly from: number;
  /** When each of its steps ends. */
  readonly ends: ReadonlyMap<number, number>;
}
function piecesInTurn(day: DayPlanBody, traineeId: string): PieceInTurn[] {
  const loads = (day.plan?.loads ?? []).flatMap((l) =>
    l.members.map((m) => ({ ...m, from: l.from, to: l.to })),
  );
  const all = [...(day.plan?.work ?? []), ...loads];
  return day.pieces
    .filter((p) => p.traineeId === traineeId)
    .flatMap((p): PieceInTurn[] => {
      const own = all.filter((s) => s.pieceId === p.id);
      if (own.length === 0) return [];
      return [
        {
          versionId: p.methodVersionId,
          from: Math.min(...own.map((s) => s.from)),
          ends: new Map(own.map((s) => [s.step, s.to])),
        },
      ];
    })
    .sort((a, b) => a.from - b.from);
}

/** Minutes of the day's hours between two minutes of it; 0 where the second is not later. */
function workedBetween(day: DayPlanBody, from: number, to: number): number {
  return day.hours.reduce((sum, h) => {
    const begins = Math.max(from, minuteOf(day, h.from));
    const ends = Math.min(to, minuteOf(day, h.to));
    return sum + Math.max(0, ends - begins);
  }, 0);
}
