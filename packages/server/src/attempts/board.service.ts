import {
  DEFAULT_SCORING,
  type Entry,
  type LossReference,
  type Outcome,
  type SchoolChoices,
  score,
  type Verdict,
  verdictOfMark,
} from '@clear-mark/core';
import type { Board, BoardTile, Person } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { attemptsStore } from './attempts.store.ts';
import { WHOLE } from './sign.store.ts';

interface OpenRow {
  readonly id: string;
  readonly traineeId: string;
  readonly methodVersionId: string;
  readonly pieceLabel: string;
  readonly startedAt: string;
  readonly schools: SchoolChoices;
}

export const boardService = (db: Database) => ({
  /** Every trainee of the class: the open attempt scored as far as it is, and today's signed pieces. */
  board: async (classId: string, me: Person, now: Date): Promise<Board> => {
    const summary = await classForInstructor(db, classId, me);
    const day = localDay(now, summary.timeZone);
    const [trainees, open, today, last, pieces] = await Promise.all([
      classesStore(db).members(classId, 'trainee'),
      openAttempts(db, classId),
      signedOn(db, classId, day, summary.timeZone),
      lastThings(db, classId),
      pieceCounts(db, classId),
    ]);
    const entries = await attemptsStore(db).entriesOfMany(open.map((o) => o.id));
    const references = await referencesOf(
      db,
      open.map((o) => o.id),
    );
    const tiles: BoardTile[] = [];
    for (const trainee of trainees) {
      const attempt = open.find((o) => o.traineeId === trainee.id);
      const things = last.get(trainee.id) ?? [];
      tiles.push({
        traineeId: trainee.id,
        traineeName: trainee.name,
        benchLabel: things.find((t) => t.kind === 'bench')?.label ?? null,
        lastThingIds: things.map((t) => t.id),
        open: attempt ? await openTile(db, attempt, entries, references) : null,
        today: today.filter((t) => t.traineeId === trainee.id).map(({ traineeId: _, ...t }) => t),
        pieces: pieces.get(trainee.id) ?? 0,
      });
    }
    return { day, timeZone: summary.timeZone, tiles };
  },
});

/** The calendar day of an instant in a zone, as YYYY-MM-DD. */
export function localDay(at: Date, timeZone: string): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone, dateStyle: 'short' }).format(at);
}

async function openTile(
  db: Database,
  attempt: OpenRow,
  all: readonly (Entry & { attemptId: string })[],
  references: readonly LossReference[],
): Promise<BoardTile['open']> {
  const sheet = await sheetOfAttempt(db, attempt);
  const entries = all.filter((e) => e.attemptId === attempt.id);
  const outcome = score(sheet, entries, { ...DEFAULT_SCORING, references });
  const step = currentStep(outcome);
  return {
    attemptId: attempt.id,
    pieceLabel: attempt.pieceLabel,
    startedAt: attempt.startedAt,
    verdict: outcome.verdict,
    share: outcome.share,
    stepTitle: sheet.steps[step]?.title ?? null,
    stepNumber: step + 1,
    steps: sheet.steps.length,
  };
}

/** The first step after the last one in which something was scored that still has something open. */
function currentStep(outcome: Outcome): number {
  const open = new Set(outcome.missing);
  const stepOf = new Map(outcome.criteria.map((c) => [c.criterionId, c.stepId]));
  const openSteps = new Set([...open].map((id) => stepOf.get(id)));
  const index = outcome.steps.findIndex((s) => openSteps.has(s.stepId));
  return index < 0 ? outcome.steps.length - 1 : index;
}

const openAttempts = (db: Database, classId: string): Promise<OpenRow[]> =>
  db('attempts as a')
    .join('pieces as p', 'p.id', 'a.piece_id')
    .select([
      'a.id',
      'a.trainee_id as traineeId',
      'a.method_version_id as methodVersionId',
      'p.label as pieceLabel',
      'a.started_at as startedAt',
      'a.schools',
    ])
    .where({ 'a.class_id': classId, 'a.state': 'open' })
    .orderBy('a.started_at', 'desc');

async function signedOn(
  db: Database,
  classId: string,
  day: string,
  timeZone: string,
): Promise<{ traineeId: string; attemptId: string; pieceLabel: string; verdict: Verdict }[]> {
  const rows: { traineeId: string; attemptId: string; pieceLabel: string; mark: string }[] = await db(
    'outcome_skills as o',
  )
    .join('attempts as a', 'a.id', 'o.attempt_id')
    .join('pieces as p', 'p.id', 'a.piece_id')
    .select(['o.trainee_id as traineeId', 'o.attempt_id as attemptId', 'p.label as pieceLabel', 'o.mark'])
    .where({ 'o.class_id': classId, 'o.skill': WHOLE })
    .whereRaw('o.started_at >= ?::date::timestamp at time zone ?', [day, timeZone])
    .whereRaw('o.started_at < (?::date + 1)::timestamp at time zone ?', [day, timeZone])
    .orderBy('o.started_at');
  return rows.map(({ mark, ...row }) => ({ ...row, verdict: verdictOfMark(mark) }));
}

/** What each trainee's latest attempt used: carried along to the next one. */
async function lastThings(
  db: Database,
  classId: string,
): Promise<Map<string, { id: string; kind: string; label: string }[]>> {
  const { rows } = await db.raw(
    `select a.trainee_id as "traineeId", t.id, t.kind, t.label
       from class_members m
       cross join lateral (
         select id, trainee_id from attempts
          where trainee_id = m.person_id and class_id = m.class_id
          order by started_at desc limit 1
       ) a
       join attempt_things x on x.attempt_id = a.id
       join things t on t.id = x.thing_id
      where m.class_id = ? and m.role = 'trainee' and t.retired_at is null
      order by t.kind`,
    [classId],
  );
  const map = new Map<string, { id: string; kind: string; label: string }[]>();
  for (const { traineeId, ...thing } of rows) map.set(traineeId, [...(map.get(traineeId) ?? []), thing]);
  return map;
}

async function pieceCounts(db: Database, classId: string): Promise<Map<string, number>> {
  const rows: { trainee_id: string; n: number }[] = await db('attempts')
    .select('trainee_id')
    .count('id as n')
    .where({ class_id: classId })
    .groupBy('trainee_id');
  return new Map(rows.map((r) => [r.trainee_id, Number(r.n)]));
}

const referencesOf = (db: Database, attemptIds: readonly string[]): Promise<LossReference[]> =>
  db('loss_references')
    .select([
      'id',
      'method',
      'wavelength_nm as wavelengthNm',
      'value_dbm as valueDbm',
      'set_at as setAt',
      'shows_negative as showsNegative',
      'reread_dbm as rereadDbm',
      'void_reason as voidReason',
    ])
    .whereIn(
      'id',
      db('readings')
        .select('reference_id')
        .whereIn('attempt_id', attemptIds as string[]),
    );
