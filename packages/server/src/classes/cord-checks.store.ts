import type { NewCordCheckBody, Thing } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';
import { THING_COLUMNS, thingOf, type ThingRow } from './thing-columns.ts';

export const cordChecksStore = (db: Database) => ({
  /** The class's things, test cords with their newest check. */
  things: (classId: string): Promise<Thing[]> => thingsWith(db, classId, null),
  thing: async (classId: string, thingId: string): Promise<Thing | null> =>
    (await thingsWith(db, classId, thingId))[0] ?? null,

  /** False when a check of this id is there. */
  insert: async (
    classId: string,
    thingId: string,
    check: NewCordCheckBody,
    by: string,
    at: Date,
  ): Promise<boolean> => {
    const added = await db('cord_checks')
      .insert({
        id: check.id,
        class_id: classId,
        thing_id: thingId,
        checked_on: check.checkedOn,
        due_on: check.dueOn,
        loss_db: check.lossDb,
        limit_db: check.limitDb,
        by,
        at,
      })
      .onConflict('id')
      .ignore()
      .returning('id');
    return added.length === 1;
  },
});

async function thingsWith(db: Database, classId: string, thingId: string | null): Promise<Thing[]> {
  const rows = await rowsOf<ThingRow>(
    db,
    sql`select ${THING_COLUMNS}
          from things t
         where t.class_id = ${classId} and (${thingId}::uuid is null or t.id = ${thingId}::uuid)
         order by t.kind, length(t.label), t.label`,
  );
  return rows.map(thingOf);
}
