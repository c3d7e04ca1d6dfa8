import { type Verdict, verdictOfMark, dayIn } from '@clear-mark/core';
import type { CatchUp, OpenAttempt, OwnBench, Person, TodayTile } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { referencesStore } from '../references/index.ts';
import { attemptsStore } from './attempts.store.ts';
import { todayStore } from './today.store.ts';

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
  const rows = await todayStore(db).signedOn(classId, day, timeZone);
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
  const map = new Map<string, LastUsed>();
  for (const { traineeId, versionId, signedAt, id, kind, label } of await todayStore(db).lastUsed(classId)) {
    const used: LastUsed = map.get(traineeId) ?? { versionId, signedAt, things: [] };
    map.set(traineeId, used);
    if (id !== null) used.things.push({ id, kind, label });
  }
  return map;
}

async function pieceCounts(db: Database, classId: string): Promise<Map<string, number>> {
  return new Map((await todayStore(db).pieceCounts(classId)).map((r) => [r.traineeId, r.n]));
}
