import type { BenchDevice, BenchDoor, Person } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface BenchRow {
  readonly id: string;
  readonly classId: string;
  readonly className: string;
  readonly label: string;
}

export const benchDevicesStore = (db: Database) => ({
  ofToken: async (tokenDigest: string): Promise<BenchRow | null> => {
    const [row] = await rowsOf<BenchRow>(
      db,
      sql`select b.id, b.class_id as "classId", c.name as "className", b.label
            from bench_devices b join classes c on c.id = b.class_id
           where b.token_digest = ${tokenDigest} and b.ended_at is null`,
    );
    return row ?? null;
  },
  ofClass: async (classId: string, tokenDigest: string | null): Promise<BenchDevice[]> => {
    const rows = await rowsOf<BenchDevice & { madeAt: Date | string }>(
      db,
      sql`select b.id, b.label, p.name as "madeBy", b.made_at as "madeAt",
                 b.token_digest is not distinct from ${tokenDigest}::text as here
            from bench_devices b join people p on p.id = b.made_by
           where b.class_id = ${classId} and b.ended_at is null order by b.label, b.made_at, b.id`,
    );
    return rows.map((r) => ({ ...r, madeAt: new Date(r.madeAt).toISOString() }));
  },
  /** Who of a class comes in by a PIN. */
  people: (classId: string): Promise<BenchDoor['people']> =>
    rowsOf(
      db,
      sql`select p.id, p.name, p.role from class_members m join people p on p.id = m.person_id
           where m.class_id = ${classId} and m.left_at is null and p.pin_hash is not null and p.disabled_at is null
           order by p.role = 'trainee', p.name, p.id`,
    ),
  /** Somebody of a class with a PIN; null for everybody else. */
  byPin: async (classId: string, personId: string): Promise<(Person & { pinHash: string }) | null> => {
    const [row] = await rowsOf<Person & { pinHash: string }>(
      db,
      sql`select p.id, p.name, p.login, p.role, p.pin_hash as "pinHash"
            from class_members m join people p on p.id = m.person_id
           where m.class_id = ${classId} and p.id = ${personId} and m.left_at is null and p.pin_hash is not null
             and p.disabled_at is null`,
    );
    return row ?? null;
  },
  insert: async (row: {
    readonly id: string;
    readonly classId: string;
    readonly label: string;
    readonly tokenDigest: string;
    readonly madeBy: string;
  }): Promise<void> => {
    await db('bench_devices').insert({
      id: row.id,
      class_id: row.classId,
      label: row.label,
      token_digest: row.tokenDigest,
      made_by: row.madeBy,
    });
  },
  end: async (
    where: { readonly id: string; readonly class_id: string } | { readonly token_digest: string },
  ) => (await db('bench_devices').where(where).whereNull('ended_at').update({ ended_at: db.fn.now() })) > 0,
  setPin: async (personId: string, pinHash: string | null): Promise<boolean> =>
    (await db('people').where({ id: personId }).update({ pin_hash: pinHash })) > 0,
});
