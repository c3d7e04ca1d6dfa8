import type { LinkTestReading } from '@clear-mark/contract';
import { outcomeMark, type UncertaintyPart } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { rowsOf, sql } from '../../database/sql.ts';

export interface ReadingOfLink extends LinkTestReading {
  readonly attemptId: string;
  readonly traineeName: string;
  readonly pieceLabel: string;
  readonly at: string;
  readonly uncertainty: readonly UncertaintyPart[];
}

export const linkTestsStore = (db: Database) => ({
  /** Every reading of the newest signed attempts on a link of the class, the newest attempt first. */
  readings: (classId: string, linkId: string, most: number): Promise<ReadingOfLink[]> =>
    rowsOf<ReadingOfLink>(
      db,
      sql`with newest as (
            select a.id, a.trainee_id, a.piece_id, a.started_at,
                   a.link -> 'rules' -> 'uncertainty' as uncertainty
              from attempts a
             where a.class_id = ${classId} and a.link ->> 'id' = ${linkId} and a.state = 'signed'
             order by a.started_at desc, a.id limit ${most})
          select n.id as "attemptId", p.name as "traineeName", i.label as "pieceLabel", n.started_at as at, n.uncertainty,
                 o.wavelength_nm as "wavelengthNm", nullif(o.direction, '') as direction, nullif(o.fiber, 0) as fiber,
                 o.loss_db as "lossDb", o.limit_db as "limitDb", o.mark
            from newest n join people p on p.id = n.trainee_id join pieces i on i.id = n.piece_id
            join outcome_losses o on o.attempt_id = n.id
           where o.mark <> ${outcomeMark('void', false)}
           order by n.started_at desc, n.id, o.wavelength_nm, o.direction, o.fiber`,
    ),
});
