import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface SecondFactor {
  readonly secret: string;
  readonly confirmed: boolean;
  readonly begunAt: Date;
  readonly lastStep: number;
  readonly recovery: readonly string[];
}

export const secondFactorStore = (db: Database) => ({
  /** Held until the end of the transaction, so that a code is taken once. */
  lock: async (personId: string): Promise<SecondFactor | null> => {
    const [row] = await rowsOf<Omit<SecondFactor, 'lastStep'> & { lastStep: string }>(
      db,
      sql`select secret, confirmed_at is not null as confirmed, begun_at as "begunAt",
                 last_step as "lastStep", recovery
            from second_factors where person_id = ${personId} for update`,
    );
    return row ? { ...row, begunAt: new Date(row.begunAt), lastStep: Number(row.lastStep) } : null;
  },
  /** A new secret; one that holds already stays. False where there is one that holds. */
  begin: async (personId: string, secret: string, now: Date): Promise<boolean> => {
    const rows = await rowsOf(
      db,
      sql`insert into second_factors as f (person_id, secret, begun_at) values (${personId}, ${secret}, ${now})
          on conflict (person_id) do update set secret = excluded.secret, begun_at = excluded.begun_at
           where f.confirmed_at is null returning 1`,
    );
    return rows.length > 0;
  },
  confirm: async (personId: string, step: number, recovery: readonly string[]): Promise<void> => {
    await db('second_factors')
      .where({ person_id: personId })
      .update({ confirmed_at: db.fn.now(), last_step: step, recovery: [...recovery] });
  },
  used: async (personId: string, step: number): Promise<void> => {
    await db('second_factors').where({ person_id: personId }).update({ last_step: step });
  },
  usedRecovery: async (personId: string, left: readonly string[]): Promise<void> => {
    await db('second_factors')
      .where({ person_id: personId })
      .update({ recovery: [...left] });
  },
  drop: async (personId: string): Promise<boolean> =>
    (await db('second_factors').where({ person_id: personId }).delete()) > 0,

  holds: async (personId: string): Promise<boolean> =>
    (await db('second_factors')
      .where({ person_id: personId })
      .whereNotNull('confirmed_at')
      .first('person_id')) !== undefined,
  leadsNeedOne: async (): Promise<boolean> =>
    (await db('school_settings').first<{ leads_need_second_factor: boolean }>())!.leads_need_second_factor,
  setLeadsNeedOne: async (required: boolean): Promise<void> => {
    await db('school_settings').update({ leads_need_second_factor: required });
  },
});
