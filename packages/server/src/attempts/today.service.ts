import { type Verdict, verdictOfMark, dayIn } from '@clear-mark/core';
import type { CatchUp, OpenAttempt, OwnBench, Person, TodayTile } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { fromDay, untilDay } from '../database/day-in.ts';
import { referencesStore } from '../references/index.ts';
import { attemptsStore } from './attempts.store.ts';
import { WHOLE } from './sign.store.ts';

/** How far back references are handed out; older ones would be void anyway. */
const REFERENCE_HOURS = 12;

export const todayService = (db: Database) => ({
  /**
   * What a device has not seen of a class: every open attempt with the entries after the last one that it knows, the
   * attempts that were signed meanwhile, and the tiles when those changed. Without anything known, all of it. A gap
   * in what a device heard is closed by the same call.
   */
  catchUp: async (
    classId: string,
    known: Readonly<Record<string, number>>,
    afresh: boolean,
    me: Person,
    now: Date,
  ): Promise<CatchUp> => {
    const { policy, timeZone } = await classForInstructor(db, classId, me);
    const open = await attemptsStore(db).openOf(classId);
    const ids = new Set(open.map((o) => o.id));
    const closed = Object.keys(known).filter((id) => !ids.has(id));
    const behind = open.filter((o) => known[o.id] === undefined || o.lastSeq > known[o.id]!);
    const entries = await attemptsStore(db).entriesAfter(
      behind.map((o) => ({ id: o.id, after: known[o.id] ?? 0 })),
    );
    const things = await attemptsStore(db).thingsOf(behind.map((o) => o.id));
    const attempts: OpenAttempt[] = behind.map(({ lastSeq: _, ...head }) => ({
      ...head,
      things: things.get(head.id) ?? [],
      entries: entries.get(head.id) ?? [],
    }));
    const changed = afresh || closed.length > 0 || open.some((o) => known[o.id] === undefined);
    const day = dayIn(timeZone, now);
    return {
      now: now.toISOString(),
      day,
      timeZone,
      policy,
      attempts,
      closed,
      tiles: changed || open.length === 0 ? await tiles(db, classId, day, timeZone) : null,
      references: await referencesStore(db).recent(classId, REFERENCE_HOURS),
    };
  },

  /** The running classes of a trainee, with what can be started at the own bench and what is open there. */
  ownBench: async (me: Person, now: Date): Promise<OwnBench[]> => {
    const store = classesStore(db);
    const running = (await store.ofMember(me.id)).filter((c) => {
      const day = dayIn(c.timeZone, now);
      return c.startsOn <= day && c.endsOn >= day;
    });
    const benches: OwnBench[] = [];
    for (const c of running) {
      if ((await store.memberRole(c.id, me.id)) !== 'trainee') continue;
      const [methods, things, used, pieces, open] = await Promise.all([
        store.methods(c.id),
        store.things(c.id),
        lastUsed(db, c.id),
        pieceCounts(db, c.id),
        attemptsStore(db).openOf(c.id),
      ]);
      const last = used.get(me.id);
      const titles = new Map(methods.map((m) => [m.versionId, m.title]));
      benches.push({
        classId: c.id,
        className: c.name,
        methods: methods.filter((m) => m.inUse).map(({ versionId, title }) => ({ versionId, title })),
        things: things.filter((t) => !t.retired),
        lastVersionId: last?.versionId ?? null,
        lastThingIds: last?.things.map((t) => t.id) ?? [],
        pieces: pieces.get(me.id) ?? 0,
        open: open
          .filter((o) => o.traineeId === me.id)
          .map((o) => ({
            attemptId: o.id,
            pieceLabel: o.pieceLabel,
            title: titles.get(o.methodVersionId) ?? '',
            startedAt: o.startedAt,
          })),
      });
    }
    return benches;
  },
});

/** Every trainee of the class: what was used last, and what was signed today. */
async function tiles(db: Database, classId: string, day: string, timeZone: string): Promise<TodayTile[]> {
  const [trainees, today, last, pieces] = await Promise.all([
    classesStore(db).members(classId, 'trainee'),
    signedOn(db, classId, day, timeZone),
    lastUsed(db, classId),
    pieceCounts(db, classId),
  ]);
  return trainees.map((trainee) => {
    const used = last.get(trainee.id);
    return {
      traineeId: trainee.id,
      traineeName: trainee.name,
      benchLabel: used?.things.find((t) => t.kind === 'bench')?.label ?? null,
      lastThingIds: used?.things.map((t) => t.id) ?? [],
      lastVersionId: used?.versionId ?? null,
      lastSignedAt: used?.signedAt ?? null,
      today: today.filter((t) => t.traineeId === trainee.id).map(({ traineeId: _, ...t }) => t),
      pieces: pieces.get(trainee.id) ?? 0,
    };
  });
}

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
    .whereRaw(fromDay('o.started_at'), [day, timeZone])
    .whereRaw(untilDay('o.started_at'), [day, timeZone])
    .orderBy('o.started_at');
  return rows.map(({ mark, ...row }) => ({ ...row, verdict: verdictOfMark(mark) }));
}

interface LastUsed {
  readonly versionId: string;
  /** When the latest piece was signed; null while it is open. */
  readonly signedAt: string | null;
  readonly things: { id: string; kind: string; label: string }[];
}

/** What each trainee's latest attempt was made by and with: offered for the next one. */
async function lastUsed(db: Database, classId: string): Promise<Map<string, LastUsed>> {
  const { rows } = await db.raw(
    `select a.trainee_id as "traineeId", a.method_version_id as "versionId",
            (select max(signed_at) from signed_revisions r where r.attempt_id = a.id) as "signedAt", t.id, t.kind, t.label
       from class_members m
       cross join lateral (
         select id, trainee_id, method_version_id from attempts
          where trainee_id = m.person_id and class_id = m.class_id
          order by started_at desc limit 1
       ) a
       left join attempt_things x on x.attempt_id = a.id
       left join things t on t.id = x.thing_id and t.retired_at is null
      where m.class_id = ? and m.role = 'trainee'
      order by t.kind`,
    [classId],
  );
  const map = new Map<string, LastUsed>();
  for (const { traineeId, versionId, signedAt, id, kind, label } of rows) {
    const used: LastUsed = map.get(traineeId) ?? { versionId, signedAt, things: [] };
    map.set(traineeId, used);
    if (id !== null) used.things.push({ id, kind, label });
  }
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
