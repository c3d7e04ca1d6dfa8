import type { AttemptListFilter } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { rowsOf, sql } from '../../database/sql.ts';
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
});
