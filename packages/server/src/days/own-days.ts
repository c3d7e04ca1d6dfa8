import { instantOf } from '@clear-mark/core';
import type { DayPlanBody, OwnDay, Person } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { daysStore } from './days.store.ts';

/** A trainee's own part of the days to come, as they are planned. */
export async function ownDays(db: Database, me: Person, now: Date): Promise<OwnDay[]> {
  const store = daysStore(db);
  const days = await store.ofTrainee(me.id, now);
  const words = await wordsOf(db, days);
  const own: OwnDay[] = [];
  for (const { content, ...day } of days) {
    const steps = stepsOf(content, words).filter((s) => s.traineeId === me.id);
    const inside = (await store.loads(day.classId, day.day)).filter(
      (l) => l.takenOutAt === null && l.members.includes(me.id),
    );
    if (steps.length === 0 && inside.length === 0) continue;
    const bench = content.benches[me.id];
    own.push({
      ...day,
      bench: bench === undefined ? null : (words.labels.get(bench) ?? null),
      steps: steps.map(({ traineeId: _, pieceId: _piece, ...s }) => s),
      loads: inside.map(({ id, ovenId, schedule, endsAt }) => ({
        id,
        oven: words.labels.get(ovenId) ?? '',
        schedule,
        endsAt,
      })),
    });
  }
  return own;
}

type Content = Omit<DayPlanBody, 'version'>;
/** What things are called, and methods. */
export interface DayWords {
  readonly labels: ReadonlyMap<string, string>;
  readonly titles: ReadonlyMap<string, string>;
}
export async function wordsOf(
  db: Database,
  days: readonly { readonly classId: string; readonly content: Content }[],
): Promise<DayWords> {
  const store = daysStore(db);
  const versions = new Set(days.flatMap((d) => d.content.pieces.map((p) => p.methodVersionId)));
  return {
    labels: await store.labels(days.map((d) => d.classId)),
    titles: await store.titles([...versions]),
  };
}

export interface ToldStep {
  readonly traineeId: string;
  readonly pieceId: string;
  readonly from: string;
  readonly to: string;
  readonly title: string;
  readonly name: string;
  readonly at: string | null;
}
/** The steps of a plan with their names, in the order of their time. */
export function stepsOf(content: Content, { labels, titles }: DayWords): ToldStep[] {
  const { plan } = content;
  if (!plan) return [];
  const pieces = new Map(content.pieces.map((p) => [p.id, p]));
  const told = (
    pieceId: string,
    step: number,
    span: { from: number; to: number },
    thing: string | null,
  ): ToldStep[] => {
    const piece = pieces.get(pieceId);
    if (!piece) return [];
    return [
      {
        traineeId: piece.traineeId,
        pieceId,
        from: instantOf(content, span.from),
        to: instantOf(content, span.to),
        title: titles.get(piece.methodVersionId) ?? '',
        name: piece.steps[step]?.name ?? '',
        at: thing === null ? null : (labels.get(thing) ?? null),
      },
    ];
  };
  const work = plan.work.flatMap((w) => {
    const step = pieces.get(w.pieceId)?.steps[w.step];
    const kind = step?.kind === 'work' ? step.station : null;
    const thing = kind === null || w.unit === null ? null : (content.stations[kind]?.[w.unit - 1] ?? null);
    return told(w.pieceId, w.step, w, thing);
  });
  const loads = plan.loads.flatMap((l) => l.members.flatMap((m) => told(m.pieceId, m.step, l, l.ovenId)));
  return [...work, ...loads].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
}
