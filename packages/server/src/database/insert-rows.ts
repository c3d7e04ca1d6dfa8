import type { Database } from './database.ts';
import { own, rowsOf, type Sql, sql } from './sql.ts';

/** A row by the names of its columns. Names are ours, never a person's. */
export type NewRow = Readonly<Record<string, unknown>>;

/**
 * The statement that inserts rows, as one JSON parameter: a multi-row VALUES list has a binding for each cell, which has to be
 * built, sent and parsed one by one. A row that is there already fails, or stays as it is. All rows have the columns of
 * the first; other columns take their defaults. There has to be one.
 */
export function insertOf(table: string, rows: readonly NewRow[], there: 'fails' | 'stays' = 'fails'): Sql {
  const columns = own(
    Object.keys(rows[0]!)
      .map((name) => `"${name}"`)
      .join(', '),
  );
  const into = own(`"${table}"`);
  const conflict = own(there === 'stays' ? ' on conflict do nothing' : '');
  return sql`insert into ${into} (${columns})
     select ${columns} from json_populate_recordset(null::${into}, ${JSON.stringify(rows)}::json)${conflict}`;
}

/** Inserts rows as `insertOf` does; none is nothing to do. */
export async function insertRows(
  db: Database,
  table: string,
  rows: readonly NewRow[],
  there: 'fails' | 'stays' = 'fails',
): Promise<void> {
  if (rows.length > 0) await rowsOf(db, insertOf(table, rows, there));
}
