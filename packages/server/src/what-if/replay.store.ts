import type { AttemptLink, Entry, LossReference } from '@clear-mark/core';
import type { ReplayAttempt, ResultFilter } from '@clear-mark/contract';
import { rowsOf, sql } from '../database/sql.ts';
import type { Database } from '../database/database.ts';
import { filterCondition } from '../results/index.ts';

export type Replayed = Omit<ReplayAttempt, 'entries' | 'link'> & {
  readonly link: AttemptLink | null;
  readonly entries: Entry[];
};

interface Scope {
  readonly classId: string;
  readonly timeZone: string;
}

/** Where a page ends: the instant and the id of its last attempt. */
const cursorOf = (a: { startedAt: string; id: string }): string => `${a.startedAt} ${a.id}`;

export const replayStore = (db: Database) => ({
  total: async (scope: Scope, filter: ResultFilter): Promise<number> => {
    const where = filterCondition(scope, filter);
    const [row] = await rowsOf<{ n: number }>(
      db,
      sql`select count(*)::int as n from outcome_skills o where ${where} and o.skill = 'whole'`,
    );
    return row!.n;
  },

  /** Signed attempts in order of time after a cursor, with their entries, without personal text. */
  page: async (
    scope: Scope,
    filter: ResultFilter,
    after: string | null,
    size: number,
  ): Promise<{ attempts: Replayed[]; references: LossReference[]; next: string | null }> => {
    const where = filterCondition(scope, filter);
    const [at, id] = after === null ? [] : after.split(' ');
    const beyond =
      after === null ? sql`` : sql`and (o.started_at, o.attempt_id) > (${at}::timestamptz, ${id}::uuid)`;
    const heads = await rowsOf<Omit<Replayed, 'entries'>>(
      db,
      sql`select a.id, a.trainee_id as "traineeId", p.name as "traineeName", i.label as "pieceLabel",
                to_char(a.started_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as "startedAt",
                a.method_version_id as "versionId", a.schools, a.link, r.kind = 'void' as "asVoid"
           from outcome_skills o
           join attempts a on a.id = o.attempt_id
           join people p on p.id = a.trainee_id
           join pieces i on i.id = a.piece_id
           join lateral (select kind from signed_revisions where attempt_id = a.id
                          order by revision desc limit 1) r on true
          where ${where} and o.skill = 'whole' ${beyond}
          order by o.started_at, o.attempt_id limit ${size}`,
    );
    const ids = heads.map((h) => h.id);
    const [entries, references] = await Promise.all([
      rowsOf<Entry & { attemptId: string }>(
        db,
        sql`select e.attempt_id as "attemptId", e.id, e.kind, e.criterion_id as "criterionId", e.part, e.value,
                  e.void_reason as "voidReason", e.author_id as "authorId", e.capacity, e.device_id as "deviceId",
                  e.source, e.at, e.clock_offset_ms as "clockOffsetMs", e.supersedes, e.target_id as "targetId",
                  null as note
             from entries e where e.attempt_id = any(${ids}::uuid[]) and e.kind <> 'note' order by e.attempt_id, e.seq`,
      ),
      rowsOf<LossReference>(
        db,
        sql`select r.id, r.method, r.wavelength_nm as "wavelengthNm", r.value_dbm as "valueDbm",
                  r.shows_negative as "showsNegative", r.set_at as "setAt", r.leg, r.light,
                  (select value_dbm from reference_changes c where c.reference_id = r.id and c.change = 'reread'
                    order by c.seq desc limit 1) as "rereadDbm",
                  (select void_reason from reference_changes c where c.reference_id = r.id and c.change = 'void'
                    order by c.seq desc limit 1) as "voidReason"
             from loss_references r
            where r.class_id = ${scope.classId} and r.id in (select reference_id from readings where attempt_id = any(${ids}::uuid[]))`,
      ),
    ]);
    const byAttempt = new Map<string, Entry[]>();
    for (const { attemptId, ...entry } of entries) {
      const list = byAttempt.get(attemptId);
      if (list) list.push(entry);
      else byAttempt.set(attemptId, [entry]);
    }
    const attempts = heads.map((h) => ({ ...h, entries: byAttempt.get(h.id) ?? [] }));
    const last = attempts.at(-1);
    return { attempts, references, next: last && attempts.length === size ? cursorOf(last) : null };
  },
});
