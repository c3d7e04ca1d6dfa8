import type { Database } from './database.ts';

/** A piece of SQL with the values that are bound in it, made by `sql` alone. */
export class Sql {
  constructor(
    readonly text: string,
    readonly bindings: readonly unknown[],
  ) {}
}

/**
 * A piece of SQL: another piece stands where it is named, every other value is bound. So a value can be no SQL, and no list of
 * bindings has to be kept in the order of its question marks. An array is bound whole, for `= any(...)`.
 */
export function sql(texts: TemplateStringsArray, ...values: readonly unknown[]): Sql {
  const bindings: unknown[] = [];
  const text = values.reduce<string>((before, value, i) => {
    const there = value instanceof Sql;
    if (there) bindings.push(...value.bindings);
    else bindings.push(value);
    return before + (there ? value.text : '?') + texts[i + 1]!;
  }, texts[0]!);
  return new Sql(text, bindings);
}

/** The pieces one after the other with a piece of SQL between them. */
export function joined(pieces: readonly Sql[], between: string): Sql {
  return new Sql(
    pieces.map((p) => p.text).join(between),
    pieces.flatMap((p) => p.bindings),
  );
}

/** A name or an expression of our own as a piece of SQL; never anything that came from outside. */
export const own = (text: string): Sql => new Sql(text, []);

/** The rows of a query. */
export async function rowsOf<T>(db: Database, query: Sql): Promise<T[]> {
  return (await db.raw(query.text, query.bindings as never)).rows as T[];
}

/** Whether the database answers. Errors: those of its connection. */
export async function ping(db: Database): Promise<void> {
  await rowsOf(db, sql`select 1`);
}
