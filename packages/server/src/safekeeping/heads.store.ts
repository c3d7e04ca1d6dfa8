import type { Database } from '../database/database.ts';
import { dayOf } from '../database/day-in.ts';
import { own, rowsOf, sql } from '../database/sql.ts';

/** The head of one class's chain at the end of a day. */
export interface DailyHead {
  readonly day: string;
  readonly classId: string;
  readonly classSeq: number;
  readonly hash: string;
}

export const headsStore = (db: Database) => ({
  /** The head of every chain that grew since its last daily head and has none of today yet, today in its class's zone. */
  grown: (now: Date): Promise<DailyHead[]> => {
    const today = dayOf(sql`${now}::timestamptz`, own('c.time_zone'));
    return rowsOf(
      db,
      sql`select ${today} as day, k.class_id as "classId", k.next_seq - 1 as "classSeq", k.last_hash as hash
            from class_chains k join classes c on c.id = k.class_id
           where k.next_seq > 1 and k.next_seq - 1 > coalesce(
             (select max(class_seq) from daily_heads h where h.class_id = k.class_id), 0)
             and not exists (select 1 from daily_heads h where h.class_id = k.class_id and h.day = ${today}::date)
           order by k.class_id`,
    );
  },

  keep: async (heads: readonly DailyHead[], signature: string | null, madeAt: Date): Promise<void> => {
    const rows = heads.map(({ day, classId, classSeq, hash }) => ({
      day,
      class_id: classId,
      class_seq: classSeq,
      hash,
      signature,
      made_at: madeAt,
    }));
    await db('daily_heads').insert(rows).onConflict(['day', 'class_id']).ignore();
  },

  kept: (): Promise<DailyHead[]> =>
    rowsOf(
      db,
      sql`select to_char(day, 'YYYY-MM-DD') as day, class_id as "classId", class_seq as "classSeq", hash
            from daily_heads`,
    ),
});
