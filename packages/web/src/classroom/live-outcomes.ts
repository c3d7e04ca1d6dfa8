import {
  atTheBench,
  DEFAULT_SCORING,
  type Entry,
  type MethodSheet,
  type Outcome,
  score,
} from '@clear-mark/core';
import type { OpenAttempt } from '@clear-mark/contract';
import type { KeptAttempt } from '../storage/kept-attempt.ts';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import type { RunningTimer } from './timers.model.ts';
import { useClassroom } from './use-classroom.ts';
import { useQueue } from '../storage/queue.ts';

export interface LiveAttempt {
  readonly attempt: KeptAttempt;
  readonly sheet: MethodSheet;
  readonly outcome: Outcome;
  /** The first step that has something required open. */
  readonly stepNumber: number;
  readonly stepTitle: string;
  /** When the newest entry was made, or the piece begun where there is none yet: ms, by this device's clock. */
  readonly lastEntryAt: number;
  readonly hand: Entry | null;
  readonly timers: readonly RunningTimer[];
}

/**
 * Every open attempt of the class as it stands on this device: what the server has, and what is still on its way.
 * Scored again only where something changed.
 */
export const useLiveOutcomes = defineStore('live-outcomes', () => {
  const classroom = useClassroom();
  const queue = useQueue();
  let made = new Map<string, { readonly key: string; readonly live: LiveAttempt }>();

  const waiting = computed(() => {
    const byAttempt = new Map<string, Entry[]>();
    for (const q of queue.items) {
      if (q.entry === null || q.state !== 'waiting') continue;
      const list = byAttempt.get(q.entry.attemptId);
      if (list) list.push(q.entry);
      else byAttempt.set(q.entry.attemptId, [q.entry]);
    }
    return byAttempt;
  });

  const timeZone = computed(() => classroom.detail?.timeZone ?? DEFAULT_SCORING.timeZone);

  /** All that an outcome hangs on beside its attempt, entries and sheet: what each reference says now, settings, the clock. */
  const surroundings = computed(() => {
    const { marginalPassCounts, marginalFailCounts } = classroom.detail?.policy ?? DEFAULT_SCORING;
    return JSON.stringify([
      classroom.classId,
      classroom.offsetMs,
      marginalPassCounts,
      marginalFailCounts,
      classroom.references,
      timeZone.value,
    ]);
  });

  const context = computed(() => {
    const { marginalPassCounts, marginalFailCounts } = classroom.detail?.policy ?? DEFAULT_SCORING;
    return {
      references: classroom.references,
      final: false,
      marginalPassCounts,
      marginalFailCounts,
      attemptVoid: false,
      timeZone: timeZone.value,
    };
  });

  const attempts = computed<readonly LiveAttempt[]>(() => {
    const next = new Map<string, { readonly key: string; readonly live: LiveAttempt }>();
    for (const attempt of classroom.attempts.values()) {
      const sheet = classroom.sheetFor(attempt);
      if (!sheet) continue;
      const own = waiting.value.get(attempt.id) ?? [];
      const key = [
        attempt.lastSeq,
        attempt.entries.length,
        own.map((e) => e.id).join(),
        surroundings.value,
      ].join(' ');
      const before = made.get(attempt.id);
      const same =
        before?.key === key && before.live.sheet === sheet && before.live.attempt.id === attempt.id;
      next.set(
        attempt.id,
        same ? before : { key, live: liveOf(attempt, sheet, own, context.value, classroom) },
      );
    }
    made = next;
    return [...next.values()].map(({ live }) => live);
  });

  const timers = computed(() => attempts.value.flatMap((a) => a.timers));
  const byId = computed(() => new Map(attempts.value.map((a) => [a.attempt.id, a])));
  return { attempts, timers, byId };
});

/** An open attempt scored as it stands, with what goes on at its bench. */
function liveOf(
  attempt: KeptAttempt,
  sheet: MethodSheet,
  own: readonly Entry[],
  context: Parameters<typeof score>[2],
  { classId, offsetMs }: { readonly classId: string; readonly offsetMs: number },
): LiveAttempt {
  const there = new Set(attempt.entries.map((e) => e.id));
  const entries: readonly Entry[] = [...attempt.entries, ...own.filter((e) => !there.has(e.id))];
  const outcome = score(sheet, entries, context);
  const missing = new Set(outcome.missing);
  const openSteps = new Set(outcome.criteria.filter((c) => missing.has(c.criterionId)).map((c) => c.stepId));
  const at = sheet.steps.findIndex((s) => openSteps.has(s.id));
  const step = at < 0 ? sheet.steps.length - 1 : at;
  const bench = atTheBench(entries);
  return {
    attempt,
    sheet,
    outcome,
    stepNumber: step + 1,
    stepTitle: sheet.steps[step]!.title,
    lastEntryAt: entries.reduce((last, e) => Math.max(last, Date.parse(e.at)), Date.parse(attempt.startedAt)),
    hand: bench.hand,
    timers: bench.timers.flatMap((e) => timerOf(attempt, sheet, e, classId, offsetMs)),
  };
}

/** A running timer of a sheet. An entry that is not on the server yet was started on this device's clock. */
export function timerOf(
  attempt: Pick<OpenAttempt, 'id' | 'traineeName'>,
  sheet: MethodSheet,
  entry: Entry & { readonly clockOffsetMs?: number },
  classId: string,
  ownOffsetMs: number,
): RunningTimer[] {
  const criterion = sheet.steps.flatMap((s) => s.criteria).find((c) => c.id === entry.criterionId);
  if (criterion?.kind !== 'timed' || entry.value?.kind !== 'timer') return [];
  const offset = entry.clockOffsetMs ?? ownOffsetMs;
  const number = (text: string | undefined): number | null => (text === undefined ? null : Number(text));
  return [
    {
      id: entry.id,
      attemptId: attempt.id,
      criterionId: criterion.id,
      classId,
      trainee: attempt.traineeName,
      label: criterion.label,
      startedAt: new Date(Date.parse(entry.value.startedAt) + offset).toISOString(),
      least: number(criterion.band.lower?.value),
      most: number(criterion.band.upper?.value),
    },
  ];
}
