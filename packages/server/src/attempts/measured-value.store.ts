import type { AttemptEntry } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, type Sql, sql } from '../database/sql.ts';
import type { Refusal } from './why-refused.ts';

/** A value that names a picture is that of the picture: kept with the same piece, for the same criterion. Null where it is. */
export async function whyPictureRefused(db: Database, entry: AttemptEntry): Promise<Refusal | null> {
  const named = namedBy(entry.value);
  if (!named) return null;
  const rows = await rowsOf(
    db,
    sql`select 1 from measured_pictures
         where id = ${named.id} and attempt_id = ${entry.attemptId} and criterion_id = ${entry.criterionId}
           and ${named.fits}`,
  );
  return rows.length === 1 ? null : { code: 'entry.unknown_picture', params: {} };
}

/** The picture that a value names, with what has to stand there. */
function namedBy(value: AttemptEntry['value']): { readonly id: string; readonly fits: Sql } | null {
  if (value?.kind === 'measure' && value.picture) {
    const { id, expanded, face } = value.picture;
    const shows =
      face === undefined
        ? sql`true`
        : sql`exists (select from jsonb_array_elements(reading -> 'ends') e
                       where e ->> 'side' = side and e ->> 'class' = ${face})`;
    return { id, fits: sql`value_text = ${value.text} and expanded = ${expanded} and ${shows}` };
  }
  if (value?.kind === 'grade' && value.picture) {
    const { id, lossDb, expanded } = value.picture;
    return {
      id,
      fits: sql`level = ${value.level} and value_text = ${lossDb} and expanded = ${expanded}`,
    };
  }
  return null;
}
