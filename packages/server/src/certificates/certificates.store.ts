import type { Certificate, CertifiedSkill } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, type Sql, sql } from '../database/sql.ts';

export interface SignedOff extends CertifiedSkill {
  readonly attemptIds: readonly string[];
}

/** A certificate with how it stands today: withdrawn before lapsed before amended, since that is what a reader must know. */
const certificatesWhere = (where: Sql, now: Date): Sql => sql`
  select k.id, k.code, k.trainee_id as "traineeId", p.name as "traineeName", c.name as "className", c.place, k.skills,
         b.name as "issuedBy", k.issued_at as "issuedAt", k.valid_until as "validUntil",
         case
           when exists (select 1 from certificate_withdrawals w where w.certificate_id = k.id) then 'withdrawn'
           when k.valid_until < (${now}::timestamptz at time zone c.time_zone)::date then 'lapsed'
           when exists (select 1 from signed_revisions r
                         where r.attempt_id = any(k.attempt_ids) and r.revision > 1 and r.signed_at > k.issued_at)
             then 'amended'
           else 'valid'
         end as state
    from certificates k
    join people p on p.id = k.trainee_id
    join people b on b.id = k.issued_by
    join classes c on c.id = k.class_id
   where ${where} order by k.issued_at desc, k.id`;

export const certificatesStore = (db: Database) => {
  const read = async (where: Sql, now: Date): Promise<Certificate[]> => {
    const rows = await rowsOf<Certificate & { issuedAt: Date | string }>(db, certificatesWhere(where, now));
    return rows.map((r) => ({
      ...r,
      code: r.code.match(/.{4}/g)!.join('-'),
      issuedAt: new Date(r.issuedAt).toISOString(),
    }));
  };
  return {
    ofClass: (classId: string, traineeId: string | undefined, now: Date): Promise<Certificate[]> =>
      read(
        traineeId === undefined
          ? sql`k.class_id = ${classId}`
          : sql`k.class_id = ${classId} and k.trainee_id = ${traineeId}`,
        now,
      ),
    ofPerson: (personId: string, now: Date): Promise<Certificate[]> =>
      read(sql`k.trainee_id = ${personId}`, now),
    byId: async (classId: string, id: string, now: Date): Promise<Certificate | null> =>
      (await read(sql`k.class_id = ${classId} and k.id = ${id}`, now))[0] ?? null,
    byCode: async (code: string, now: Date): Promise<Certificate | null> =>
      (await read(sql`k.code = ${code}`, now))[0] ?? null,

    /** What a trainee is signed off in on a day: the newest sign-off of each skill that has not lapsed, with its methods. */
    signedOff: (classId: string, traineeId: string, day: string): Promise<SignedOff[]> =>
      rowsOf(
        db,
        sql`select s.skill, s.rule, s.evidence, s.lapses_on as "lapsesOn", s.attempt_ids as "attemptIds",
                   coalesce((select json_agg(m order by m.title, m.version) from (
                     select distinct v.title, v.version from attempts a
                       join method_versions v on v.id = a.method_version_id
                      where a.id = any(s.attempt_ids)) m), '[]') as methods
              from (select distinct on (skill) * from sign_offs
                     where class_id = ${classId} and trainee_id = ${traineeId} order by skill, at desc) s
             where s.lapses_on >= ${day}::date order by s.skill`,
      ),
    insert: async (row: {
      readonly id: string;
      readonly classId: string;
      readonly traineeId: string;
      readonly code: string;
      readonly skills: readonly CertifiedSkill[];
      readonly attemptIds: readonly string[];
      readonly validUntil: string;
      readonly by: string;
      readonly at: Date;
    }): Promise<void> => {
      await db('certificates').insert({
        id: row.id,
        class_id: row.classId,
        trainee_id: row.traineeId,
        code: row.code,
        skills: JSON.stringify(row.skills),
        attempt_ids: row.attemptIds,
        valid_until: row.validUntil,
        issued_by: row.by,
        issued_at: row.at,
      });
    },
    /** Once; a second withdrawal changes nothing. True when it is new. */
    withdraw: async (id: string, by: string, at: Date, reason: string): Promise<boolean> => {
      const rows = await rowsOf(
        db,
        sql`insert into certificate_withdrawals (certificate_id, by, at, reason)
            values (${id}, ${by}, ${at}, ${reason}) on conflict do nothing returning 1`,
      );
      return rows.length > 0;
    },
  };
};
