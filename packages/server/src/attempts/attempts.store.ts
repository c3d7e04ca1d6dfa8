import type { AttemptLink, Entry, MethodSheet, PracticeChoices } from '@clear-mark/core';
import type {
  AttemptEntry,
  LateEntry,
  AmendmentNotice,
  AttemptHead,
  OpenAttempt,
  Revision,
  StoredEntry,
  Thing,
} from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { insertRows } from '../database/insert-rows.ts';
import { rowsOf, sql } from '../database/sql.ts';
import { THING_COLUMNS, thingOf, type ThingRow } from '../classes/index.ts';

export interface AttemptRow {
  readonly id: string;
  readonly classId: string;
  readonly traineeId: string;
  readonly methodVersionId: string;
  readonly pieceId: string;
  readonly startedAt: string;
  readonly state: 'open' | 'signed' | 'withdrawn';
  readonly nextSeq: number;
  /** The class's choices of practice when it was started. */
  readonly schools: PracticeChoices;
  /** The link that it is made on, as it was described then; null for the method's own. */
  readonly link: AttemptLink | null;
}

export interface NewAttempt {
  readonly id: string;
  readonly classId: string;
  readonly traineeId: string;
  readonly methodVersionId: string;
  readonly pieceId: string;
  readonly pieceLabel: string;
  readonly pieceKind: MethodSheet['pieceKind'];
  readonly thingIds: readonly string[];
  readonly startedAt: string;
  readonly clockOffsetMs: number;
  readonly deviceId: string;
  readonly startedBy: string;
  readonly schools: PracticeChoices;
  readonly link?: AttemptLink | null;
  /** What the device claimed as the start, where that could not be. */
  readonly claimedStartedAt?: string | null;
  /** When it came, where that is not now: a loader of whole classes says so. */
  readonly receivedAt?: string;
}

const ATTEMPT = [
  'id',
  'class_id as classId',
  'trainee_id as traineeId',
  'method_version_id as methodVersionId',
  'piece_id as pieceId',
  'started_at as startedAt',
  'state',
  'next_seq as nextSeq',
  'schools',
  'link',
];

export const ENTRY_COLUMNS = [
  'e.id',
  'e.attempt_id as attemptId',
  'e.seq',
  'e.kind',
  'e.criterion_id as criterionId',
  'e.part',
  'e.value',
  'e.void_reason as voidReason',
  'n.text as note',
  'e.author_id as authorId',
  'e.capacity',
  'e.device_id as deviceId',
  'e.source',
  'e.at',
  'e.supersedes',
  'e.target_id as targetId',
  'e.clock_offset_ms as clockOffsetMs',
];

/** What stands beside an entry only where it is so: who delivered it, whether its author stood by it, a claimed time. */
const BESIDE = (db: Database) =>
  db.raw(`case when e.delivered_by is null and e.claimed_at is null then null else jsonb_build_object(
    'deliveredBy', (select name from people where id = e.delivered_by),
    'confirmed', exists (select 1 from entry_confirmations c where c.entry_id = e.id),
    'claimedAt', e.claimed_at) end as beside`);

interface Beside {
  readonly beside: { deliveredBy: string | null; confirmed: boolean; claimedAt: string | null } | null;
}

function withBeside<T extends object>({ beside, ...entry }: T & Beside): T {
  if (!beside) return entry as unknown as T;
  const { deliveredBy, confirmed, claimedAt } = beside;
  return {
    ...(entry as unknown as T),
    ...(deliveredBy === null ? {} : { deliveredBy, confirmed }),
    ...(claimedAt === null ? {} : { claimedAt: new Date(claimedAt).toISOString() }),
  };
}

export const attemptsStore = (db: Database) => ({
  byId: async (id: string): Promise<AttemptRow | null> =>
    (await db('attempts').select(ATTEMPT).where({ id }).first()) ?? null,

  /** The attempt with its row locked until the transaction ends: entries and signing take turns. */
  lock: async (id: string): Promise<AttemptRow | null> =>
    (await db('attempts').select(ATTEMPT).where({ id }).forUpdate().first()) ?? null,

  head: async (id: string): Promise<AttemptHead | null> => {
    const row = await db('attempts as a')
      .join('people as p', 'p.id', 'a.trainee_id')
      .join('pieces as i', 'i.id', 'a.piece_id')
      .select([
        'a.id',
        'a.class_id as classId',
        'a.trainee_id as traineeId',
        'p.name as traineeName',
        'a.method_version_id as methodVersionId',
        'a.piece_id as pieceId',
        'i.label as pieceLabel',
        'a.started_at as startedAt',
        'a.claimed_started_at as claimedStartedAt',
        'a.state',
      ])
      .where('a.id', id)
      .first<Omit<AttemptHead, 'things'> | undefined>();
    if (!row) return null;
    const things = await attemptsStore(db).thingsOf([id]);
    return { ...row, things: things.get(id) ?? [] };
  },

  /** The things of an attempt, in order; whether one is a lot that it took of the stock. */
  thingIds: (id: string): Promise<{ id: string; isTaken: boolean }[]> =>
    rowsOf(
      db,
      sql`select x.thing_id as id, (u.thing_id is not null and s.item is not null) as "isTaken"
            from attempt_things x left join attempt_uses u using (attempt_id, thing_id)
            left join thing_settings s using (thing_id)
           where x.attempt_id = ${id} order by x.thing_id`,
    ),

  insert: (attempt: NewAttempt): Promise<void> => insertAttempts(db, [attempt]),

  /** Several at once, with the sequence number that their next entry takes: for a loader. */
  insertMany: (attempts: readonly (NewAttempt & { readonly nextSeq: number })[]): Promise<void> =>
    insertAttempts(db, attempts),

  entries: async (attemptId: string): Promise<StoredEntry[]> =>
    (
      await db('entries as e')
        .leftJoin('entry_notes as n', 'n.entry_id', 'e.id')
        .select([...ENTRY_COLUMNS.filter((c) => !c.startsWith('e.attempt_id')), BESIDE(db)])
        .where('e.attempt_id', attemptId)
        .orderBy('e.seq')
    ).map(withBeside),

  /** Withdraws an open attempt without entries. False when it is none (any more). */
  withdraw: async (id: string, by: string, at: Date): Promise<boolean> =>
    (await db('attempts')
      .where({ id, state: 'open', next_seq: 1 })
      .update({ state: 'withdrawn', withdrawn_by: by, withdrawn_at: at })) === 1,

  /** How many a trainee has open, and how many a person has started in the last minute. */
  load: async (traineeId: string, startedBy: string): Promise<{ open: number; lately: number }> =>
    (
      await db.raw(
        `select (select count(*)::int from attempts where trainee_id = ? and state = 'open') as open,
                (select count(*)::int from attempts
                  where started_by = ? and received_at > now() - interval '1 minute') as lately`,
        [traineeId, startedBy],
      )
    ).rows[0],

  entriesOfMany: (attemptIds: readonly string[]): Promise<(Entry & { attemptId: string })[]> =>
    db('entries as e')
      .leftJoin('entry_notes as n', 'n.entry_id', 'e.id')
      .select(ENTRY_COLUMNS)
      .whereIn('e.attempt_id', attemptIds as string[])
      .orderBy('e.seq'),

  /** The open attempts of a class, newest first, with the last sequence number of each. */
  openOf: (classId: string): Promise<(Omit<OpenAttempt, 'entries' | 'things'> & { lastSeq: number })[]> =>
    db('attempts as a')
      .join('people as p', 'p.id', 'a.trainee_id')
      .join('pieces as i', 'i.id', 'a.piece_id')
      .select([
        'a.id',
        'a.trainee_id as traineeId',
        'p.name as traineeName',
        'a.method_version_id as methodVersionId',
        'a.piece_id as pieceId',
        'i.label as pieceLabel',
        'a.started_at as startedAt',
        'a.claimed_started_at as claimedStartedAt',
        'a.schools',
        'a.link',
        db.raw('a.next_seq - 1 as "lastSeq"'),
      ])
      .where({ 'a.class_id': classId, 'a.state': 'open' })
      .orderBy('a.started_at', 'desc'),

  /** Entries of several attempts, of each those after a sequence number. */
  entriesAfter: async (
    wanted: readonly { readonly id: string; readonly after: number }[],
  ): Promise<Map<string, StoredEntry[]>> => {
    const found = new Map<string, StoredEntry[]>();
    if (wanted.length === 0) return found;
    const rows: (StoredEntry & { attemptId: string } & Beside)[] = await db('entries as e')
      .join(
        db.raw('unnest(?::uuid[], ?::int[]) as w(id, after)', [
          wanted.map((w) => w.id) as never,
          wanted.map((w) => w.after) as never,
        ]),
        'w.id',
        'e.attempt_id',
      )
      .leftJoin('entry_notes as n', 'n.entry_id', 'e.id')
      .select([...ENTRY_COLUMNS, BESIDE(db)])
      .whereRaw('e.seq > w.after')
      .orderBy('e.seq');
    for (const { attemptId, ...entry } of rows.map(withBeside)) {
      const list = found.get(attemptId);
      if (list) list.push(entry);
      else found.set(attemptId, [entry]);
    }
    return found;
  },

  /** New entries of several attempts; of one that was not looked at before, those of the last seconds. */
  freshEntries: async (
    wanted: readonly { readonly id: string; readonly after: number | null }[],
    seconds: number,
  ): Promise<Map<string, StoredEntry[]>> => {
    const unknown = wanted.filter((w) => w.after === null).map((w) => w.id);
    const before = new Map<string, number>();
    if (unknown.length > 0) {
      const { rows } = await db.raw(
        `select a.id, coalesce((select min(e.seq) - 1 from entries e where e.attempt_id = a.id
                  and e.received_at > now() - make_interval(secs => ?)), a.next_seq - 1) as after
           from attempts a where a.id = any(?::uuid[])`,
        [seconds, unknown as never],
      );
      for (const { id, after } of rows as { id: string; after: number }[]) before.set(id, after);
    }
    return attemptsStore(db).entriesAfter(
      wanted.map((w) => ({ id: w.id, after: w.after ?? before.get(w.id) ?? 0 })),
    );
  },

  thingsOf: async (attemptIds: readonly string[]): Promise<Map<string, Thing[]>> => {
    const rows = await rowsOf<ThingRow & { attemptId: string }>(
      db,
      sql`select x.attempt_id as "attemptId", ${THING_COLUMNS}
            from attempt_things x join things t on t.id = x.thing_id
           where x.attempt_id = any(${attemptIds}::uuid[])
           order by t.kind, t.label`,
    );
    const map = new Map<string, Thing[]>();
    for (const { attemptId, ...thing } of rows) {
      map.set(attemptId, [...(map.get(attemptId) ?? []), thingOf(thing)]);
    }
    return map;
  },

  revisions: (attemptId: string): Promise<Revision[]> =>
    db('signed_revisions as r')
      .join('people as p', 'p.id', 'r.signed_by')
      .select([
        'r.revision',
        'r.kind',
        'r.signed_at as signedAt',
        'p.name as signedBy',
        'r.reason',
        'r.hash',
        'r.previous_hash as previousHash',
        'r.last_seq as lastSeq',
        'r.outcome',
      ])
      .where('r.attempt_id', attemptId)
      .orderBy('r.revision'),

  notices: (attemptId: string): Promise<AmendmentNotice[]> =>
    db('amendment_notices as n')
      .join('people as p', 'p.id', 'n.by')
      .select(['n.id', 'n.revision', 'n.cause', 'p.name as by', 'n.at'])
      .where('n.attempt_id', attemptId)
      // A further revision was signed with what had changed in view.
      .whereRaw(
        'n.revision = (select max(r.revision) from signed_revisions r where r.attempt_id = n.attempt_id)',
      )
      .orderBy('n.at'),

  /** What came late and was neither taken nor left out yet, in the order in which it came. */
  late: async (attemptId: string): Promise<LateEntry[]> => {
    const rows = await rowsOf<{ entry: AttemptEntry; authorName: string; receivedAt: Date }>(
      db,
      sql`select u.entry, p.name as "authorName", u.received_at as "receivedAt"
            from unmerged_entries u join people p on p.id = u.author_id
           where u.attempt_id = ${attemptId}
             and not exists (select 1 from late_decisions d where d.entry_id = u.id)
           order by u.received_at, u.id`,
    );
    return rows.map(({ entry, authorName, receivedAt }) => ({
      ...entry,
      authorName,
      receivedAt: new Date(receivedAt).toISOString(),
    }));
  },
});

/** Pieces that are there already stay as they are. */
async function insertAttempts(
  db: Database,
  attempts: readonly (NewAttempt & { readonly nextSeq?: number })[],
): Promise<void> {
  await insertRows(
    db,
    'pieces',
    attempts.map((a) => ({
      id: a.pieceId,
      class_id: a.classId,
      kind: a.pieceKind,
      label: a.pieceLabel,
      made_by: a.traineeId,
      made_at: a.startedAt,
    })),
    'stays',
  );
  await insertRows(
    db,
    'attempts',
    attempts.map((a) => ({
      id: a.id,
      class_id: a.classId,
      trainee_id: a.traineeId,
      method_version_id: a.methodVersionId,
      piece_id: a.pieceId,
      started_at: a.startedAt,
      claimed_started_at: a.claimedStartedAt ?? null,
      ...(a.receivedAt === undefined ? {} : { received_at: a.receivedAt }),
      ...(a.nextSeq === undefined ? {} : { next_seq: a.nextSeq }),
      clock_offset_ms: a.clockOffsetMs,
      device_id: a.deviceId,
      started_by: a.startedBy,
      schools: a.schools,
      link: a.link ?? null,
    })),
  );
  const things = attempts.flatMap((a) =>
    a.thingIds.map((thing_id) => ({ attempt_id: a.id, class_id: a.classId, thing_id })),
  );
  await insertRows(db, 'attempt_things', things);
}
