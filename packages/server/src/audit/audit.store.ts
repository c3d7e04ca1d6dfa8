import type { AuditEvent, AuditFilter, AuditKind } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { joined, rowsOf, sql } from '../database/sql.ts';

/** What was done, for the trail. `detail` never holds a name or another text about a person. */
export interface Done {
  readonly kind: AuditKind;
  readonly by: string | null;
  readonly person?: string | null;
  readonly classId?: string | null;
  readonly detail?: string;
}

const MOST_DETAIL = 200;

/** Adds to the trail, within the transaction of what was done: both are kept, or neither. */
export async function record(db: Database, done: Done): Promise<void> {
  await db('audit_events').insert({
    kind: done.kind,
    by_id: done.by,
    person_id: done.person ?? null,
    class_id: done.classId ?? null,
    detail: (done.detail ?? '').slice(0, MOST_DETAIL),
  });
}

export const auditStore = (db: Database) => ({
  /** The newest that fit, at most so many, with `seq` under `before`. */
  page: async (filter: AuditFilter, most: number): Promise<AuditEvent[]> => {
    const wanted = [
      sql`true`,
      ...(filter.kind ? [sql`e.kind = ${filter.kind}`] : []),
      ...(filter.person ? [sql`(e.by_id = ${filter.person} or e.person_id = ${filter.person})`] : []),
      ...(filter.classId ? [sql`e.class_id = ${filter.classId}`] : []),
      ...(filter.before !== undefined ? [sql`e.seq < ${filter.before}`] : []),
      ...(filter.text
        ? [
            sql`position(lower(${filter.text}) in lower(concat_ws(' ', b.name, p.name, c.name, e.detail))) > 0`,
          ]
        : []),
    ];
    const rows = await rowsOf<AuditEvent & { at: Date | string; seq: string | number }>(
      db,
      sql`select e.seq, e.at, e.kind, b.name as by, p.name as person, c.name as "className", e.detail
            from audit_events e
            left join people b on b.id = e.by_id
            left join people p on p.id = e.person_id
            left join classes c on c.id = e.class_id
           where ${joined(wanted, ' and ')}
           order by e.seq desc limit ${most}`,
    );
    return rows.map((row) => ({ ...row, seq: Number(row.seq), at: new Date(row.at).toISOString() }));
  },
});
