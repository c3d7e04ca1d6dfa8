import type { Database } from '../database/database.ts';
import type { IntakeRow } from './entries.store.ts';

/** Entries that an attempt takes, and of those a trainee's own: more is a slip or an attack, no piece of work. */
export const MOST_ENTRIES = 5000;
export const MOST_OF_TRAINEE = 1000;

/** The statement is read and planned once a connection. */
const PREPARED = { name: 'take_entries' };

export type Became =
  | 'taken'
  | 'there'
  | 'late'
  | 'late_again'
  | 'withdrawn'
  | 'no_reference'
  | 'not_claimed'
  | 'no_target'
  | 'full'
  | 'full_of_trainee';

/** What the database made of one entry, or why it cannot keep it. */
export interface Taken {
  readonly became: Became | 'not_kept';
  readonly seq: number | null;
  readonly there: Readonly<Record<string, unknown>> | null;
  readonly at: string | null;
  readonly claimedAt: string | null;
  /** The refusal behind `not_kept`. */
  readonly error: unknown;
}

interface Answer {
  readonly i: number;
  readonly became: Became;
  readonly seq: number | null;
  readonly there: Readonly<Record<string, unknown>> | null;
  readonly at: string | null;
  readonly claimed_at: string | null;
}

export const intakeStore = (db: Database) => ({
  /** What became of each entry, in their order. A raw query, since only such a one can be prepared. */
  takeEntries: async (entries: readonly IntakeRow[], now: Date): Promise<readonly Answer[]> => {
    const given = JSON.stringify(entries.map((entry, i) => ({ i, ...entry })));
    const { rows } = (await db
      .raw('select * from take_entries(?::jsonb, ?, ?, ?) order by i', [
        given,
        now,
        MOST_ENTRIES,
        MOST_OF_TRAINEE,
      ])
      .options(PREPARED)) as { rows: readonly Answer[] };
    return rows;
  },
});
