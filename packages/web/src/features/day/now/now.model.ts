import { minuteOf } from '@clear-mark/core';
import type { DayLoad, DayPlanBody } from '@clear-mark/contract';

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
