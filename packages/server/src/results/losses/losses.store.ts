import type { Direction, ThingKind } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { rowsOf, type Sql, sql } from '../../database/sql.ts';
import { KIND_OR_ITEM } from '../kind-or-item.ts';

export interface LossRow {
  readonly methodId: string;
  readonly referenceMethod: string;
  readonly fiberClass: string;
  readonly wavelengthNm: number;
  readonly direction: '' | Direction;
  readonly limitDb: number;
  readonly expectedDb: number;
  /**
   * Losses in dB from the lowest on: each value once in eight bytes, how often it was read in four. A meter shows hundredths,
   * so that a million readings are some hundred values; one number a reading took twice as long.
   */
  readonly losses: Buffer | null;
  readonly voids: number;
}

/** What one sample of losses was read of. */
export interface Sample {
  readonly reference: string;
  readonly fiber: string;
  readonly wavelength: number;
  readonly direction?: string | undefined;
}

export interface SeriesRow {
  readonly attemptId: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly startedAt: string;
  readonly lossDb: number;
  readonly limitDb: number;
  readonly methodId: string;
  readonly title: string;
  readonly version: number;
  readonly things: Readonly<Partial<Record<ThingKind, string>>> | null;
}

const inSample = (where: Sql, of: Sample): Sql =>
  sql`${where} and o.reference_method = ${of.reference} and o.fiber_class = ${of.fiber}
        and o.wavelength_nm = ${of.wavelength} and o.direction = ${of.direction ?? ''} and o.loss_db is not null`;

export const lossesStore = (db: Database) => ({
  samples: (where: Sql): Promise<LossRow[]> =>
    rowsOf(
      db,
      sql`select method_id as "methodId", reference_method as "referenceMethod", fiber_class as "fiberClass",
                 wavelength_nm as "wavelengthNm", direction, limit_db as "limitDb", max(expected) as "expectedDb",
                 string_agg(float8send(loss_db) || int4send(times), ''::bytea order by loss_db)
                   filter (where loss_db is not null) as losses,
                 sum(voids)::int as voids
            from (select method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db, loss_db,
                         count(*)::int as times, max(expected_db) as expected, count(*) filter (where mark = 'V') as voids
                    from outcome_losses o
                   where ${where}
                   group by method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db, loss_db) o
           group by method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db
           order by sum(sum(times)) over (partition by method_id) desc, method_id, wavelength_nm, direction`,
    ),

  counted: async (where: Sql, of: Sample): Promise<number> => {
    const query = sql`select count(*)::int as n from outcome_losses o where ${inSample(where, of)}`;
    return (await rowsOf<{ n: number }>(db, query))[0]!.n;
  },

  /** The newest readings of a sample with what was used, in the order of their making. */
  newest: (where: Sql, of: Sample, most: number): Promise<SeriesRow[]> =>
    rowsOf(
      db,
      sql`select o.attempt_id as "attemptId", o.trainee_id as "traineeId", p.name as "traineeName",
                 o.started_at as "startedAt", o.loss_db as "lossDb", o.limit_db as "limitDb",
                 v.method_id as "methodId", v.title, v.version,
                 (select jsonb_object_agg(${KIND_OR_ITEM}, t.label)
                    from attempt_things x join things t on t.id = x.thing_id
                    left join thing_settings s on s.thing_id = t.id
                   where x.attempt_id = o.attempt_id) as things
            from (select * from outcome_losses o where ${inSample(where, of)}
                   order by o.started_at desc, o.attempt_id desc, o.criterion_id desc, o.fiber desc
                   limit ${most}) o
            join people p on p.id = o.trainee_id
            join attempts a on a.id = o.attempt_id
            join method_versions v on v.id = a.method_version_id
           order by o.started_at, o.attempt_id, o.criterion_id, o.fiber`,
    ),
});
