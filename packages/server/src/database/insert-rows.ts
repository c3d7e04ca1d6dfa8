import type { Database } from './database.ts';

/**
 * Inserts many rows as one JSON parameter. A multi-row VALUES list has a binding for each cell, which
 * has to be built, sent and parsed one by one.
 * All rows have the columns of the first; other columns take their defaults. Column names are ours, never a
 * person's.
 */
export async function insertRows(
  db: Database,
  table: string,
  rows: readonly Readonly<Record<string, unknown>>[],
): Promise<void> {
  const first = rows[0];
  if (!first) return;
  const columns = Object.keys(first)
    .map((name) => `"${name}"`)
    .join(', ');
  await db.raw(
    `insert into "${table}" (${columns})
     select ${columns} from json_populate_recordset(null::"${table}", ?::json)`,
    [JSON.stringify(rows)],
  );
}
