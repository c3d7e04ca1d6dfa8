import type { EntryValue } from '@clear-mark/core';
import type { AttemptListFilter } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { own, rowsOf, sql } from '../../database/sql.ts';
import { listCondition } from './list-condition.ts';

const PAGE = 1000;

export interface AttemptCsvRow {
  readonly id: string;
  readonly started: string;
  readonly startedAt: string;
  readonly trainee: string;
  readonly piece: string;
  readonly method: string;
  readonly version: number;
  readonly marks: Readonly<Record<string, string>>;
  readonly losses: readonly { nm: number; db: number | null; limit: number }[];
  readonly things: readonly { kind: string; label: string }[];
  readonly kind: string;
  readonly signer: string;
  readonly reason: string | null;
}

export interface CriterionCsvRow {
  readonly attempt_id: string;
  readonly criterion_id: string;
  readonly skill: string;
  readonly mark: string;
  readonly points: number;
  readonly lost: number;
  readonly value: number | null;
  readonly faults: readonly string[];
}

export interface EntryCsvRow {
  readonly id: string;
  readonly attemptId: string;
  readonly seq: number;
  readonly kind: string;
  readonly criterionId: string | null;
  readonly part: string;
  readonly value: EntryValue | null;
  readonly note: string | null;
  readonly by: string;
  readonly capacity: string;
  readonly source: string;
  readonly at: string;
  readonly supersedes: readonly string[];
  readonly targetId: string | null;
}
export interface ReadingCsvRow {
  readonly entryId: string;
  readonly attemptId: string;
  readonly wavelengthNm: number;
  readonly direction: string;
  readonly fiber: number | null;
  readonly value: string | null;
  readonly unit: string;
  readonly noLight: boolean;
  readonly referenceId: string;
  readonly method: string;
  readonly referenceDbm: string;
  readonly instrument: string | null;
  readonly takenAt: string | null;
  readonly calibratedOn: string | null;
}
export interface StockCsvRow {
  readonly id: string;
  readonly kind: string;
  readonly label: string;
  readonly inUse: boolean;
  readonly pieces: number;
  readonly lastUsed: string | null;
  readonly checkedOn: string | null;
  readonly dueOn: string | null;
  readonly lossDb: number | null;
  readonly calibratedOn: string | null;
  readonly calibrationDueOn: string | null;
}

const UTC = own(`'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'`);

export const csvStore = (db: Database) => ({
  /** Pages through the attempts by (start, id), so that a long course does not sit in memory. */
  pages: async function* (
    classId: string,
    filter: AttemptListFilter,
    timeZone: string,
  ): AsyncGenerator<AttemptCsvRow[]> {
    const where = listCondition({ classId, timeZone }, filter);
    let after: [string, string] = ['-infinity', '00000000-0000-0000-0000-000000000000'];
    for (;;) {
      const rows: AttemptCsvRow[] = await rowsOf(
        db,
        sql`select a.id, a.started_at as "startedAt",
                to_char(a.started_at at time zone ${timeZone}, 'YYYY-MM-DD"T"HH24:MI:SS') as started,
                p.name as trainee, i.label as piece, v.method_id as method, v.version, r.kind,
                s.name as signer, r.reason,
                (select json_object_agg(x.skill, x.mark) from outcome_skills x where x.attempt_id = a.id) as marks,
                coalesce((select json_agg(w) from (
                   select wavelength_nm as nm, max(loss_db) as db, max(limit_db) as limit
                     from outcome_losses l where l.attempt_id = a.id group by wavelength_nm) w), '[]') as losses,
                coalesce((select json_agg(json_build_object('kind', t.kind, 'label', t.label))
                   from attempt_things at join things t on t.id = at.thing_id where at.attempt_id = a.id), '[]') as things
           from outcome_skills o
           join attempts a on a.id = o.attempt_id
           join people p on p.id = a.trainee_id
           join pieces i on i.id = a.piece_id
           join method_versions v on v.id = a.method_version_id
           join lateral (select kind, reason, signed_by from signed_revisions where attempt_id = a.id
                          order by revision desc limit 1) r on true
           join people s on s.id = r.signed_by
          where ${where} and (o.started_at, o.attempt_id) > (${after[0]}::timestamptz, ${after[1]}::uuid)
          order by o.started_at, o.attempt_id
          limit ${PAGE}`,
      );
      if (rows.length === 0) return;
      yield rows;
      const last = rows[rows.length - 1]!;
      after = [last.startedAt, last.id];
    }
  },

  outcomesOf: (attemptIds: readonly string[]): Promise<CriterionCsvRow[]> =>
    db('outcome_criteria')
      .select('attempt_id', 'criterion_id', 'skill', 'mark', 'points', 'lost', 'value', 'faults')
      .whereIn('attempt_id', attemptIds as string[])
      .orderBy('started_at')
      .orderBy('attempt_id')
      .orderBy('criterion_id'),

  entriesOf: (attemptIds: readonly string[]): Promise<EntryCsvRow[]> =>
    rowsOf(
      db,
      sql`select e.id, e.attempt_id as "attemptId", e.seq, e.kind, e.criterion_id as "criterionId", e.part, e.value,
                 n.text as note, p.name as by, e.capacity, e.source, e.supersedes, e.target_id as "targetId",
                 to_char(e.at at time zone 'UTC', ${UTC}) as at
            from entries e join attempts a on a.id = e.attempt_id join people p on p.id = e.author_id
            left join entry_notes n on n.entry_id = e.id
           where e.attempt_id = any(${attemptIds}::uuid[]) order by a.started_at, a.id, e.seq`,
    ),
  readingsOf: (attemptIds: readonly string[]): Promise<ReadingCsvRow[]> =>
    rowsOf(
      db,
      sql`select r.entry_id as "entryId", r.attempt_id as "attemptId", r.wavelength_nm as "wavelengthNm", r.direction,
                 r.fiber, r.value_text as value, r.unit, r.no_light as "noLight", r.reference_id as "referenceId",
                 f.method, coalesce((select c.value_dbm from reference_changes c
                    where c.reference_id = f.id and c.change = 'reread' order by c.seq desc limit 1), f.value_dbm)
                   as "referenceDbm",
                 t.label as instrument, to_char(r.taken_at at time zone 'UTC', ${UTC}) as "takenAt",
                 r.calibrated_on::text as "calibratedOn"
            from readings r join attempts a on a.id = r.attempt_id join entries e on e.id = r.entry_id
            join loss_references f on f.id = r.reference_id
            left join things t on t.id = coalesce(r.instrument_id, f.instrument_id)
           where r.attempt_id = any(${attemptIds}::uuid[]) order by a.started_at, a.id, e.seq`,
    ),
  stock: (classId: string, timeZone: string): Promise<StockCsvRow[]> =>
    rowsOf(
      db,
      sql`select t.id, t.kind, t.label, t.retired_at is null as "inUse",
                 (select count(*) from attempt_things x where x.thing_id = t.id)::int as pieces,
                 (select to_char(max(a.started_at) at time zone ${timeZone}, 'YYYY-MM-DD"T"HH24:MI:SS')
                    from attempt_things x join attempts a on a.id = x.attempt_id where x.thing_id = t.id) as "lastUsed",
                 k.checked_on::text as "checkedOn", k.due_on::text as "dueOn", k.loss_db::float8 as "lossDb",
                 i.calibrated_on::text as "calibratedOn", i.calibration_due_on::text as "calibrationDueOn"
            from things t
            left join instruments i on i.thing_id = t.id
            left join lateral (select * from cord_checks c where c.thing_id = t.id order by c.at desc limit 1) k on true
           where t.class_id = ${classId} order by t.kind, length(t.label), t.label, t.id`,
    ),
});
