import type { AttemptEntry } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';
import type { Refusal } from './why-refused.ts';

/** A value that names a picture is that of the picture: kept with the same piece, for the same criterion. Null where it is. */
export async function whyPictureRefused(db: Database, entry: AttemptEntry): Promise<Refusal | null> {
  const { value } = entry;
  if (value?.kind !== 'measure' || !value.picture) return null;
  const rows = await rowsOf(
    db,
    sql`select 1 from measured_pictures
         where id = ${value.picture.id} and attempt_id = ${entry.attemptId} and criterion_id = ${entry.criterionId}
           and value_text = ${value.text} and expanded = ${value.picture.expanded}`,
  );
  return rows.length === 1 ? null : { code: 'entry.unknown_picture', params: {} };
}
