import type { ApiToken, TokenRight } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface TokenRow {
  readonly id: string;
  readonly personId: string;
  readonly rights: readonly string[];
  readonly until: Date;
}

export const apiTokensStore = (db: Database) => ({
  ofPerson: async (personId: string): Promise<ApiToken[]> => {
    const rows = await rowsOf<ApiToken & { madeAt: Date; until: Date; lastUsed: Date | null }>(
      db,
      sql`select id, label, rights, made_at as "madeAt", until, last_used as "lastUsed" from api_tokens
           where person_id = ${personId} order by made_at, id`,
    );
    const iso = (at: Date | string): string => new Date(at).toISOString();
    return rows.map((r) => ({
      ...r,
      madeAt: iso(r.madeAt),
      until: iso(r.until),
      lastUsed: r.lastUsed === null ? null : iso(r.lastUsed),
    }));
  },
  /** The token behind a digest, where it holds; that it was used is written down with it. */
  use: async (digest: string, now: Date): Promise<TokenRow | null> => {
    const [row] = await rowsOf<Omit<TokenRow, 'until'> & { until: Date | string }>(
      db,
      sql`update api_tokens set last_used = ${now} where token_digest = ${digest} and until > ${now}
          returning id, person_id as "personId", rights, until`,
    );
    return row ? { ...row, until: new Date(row.until) } : null;
  },
  insert: async (row: {
    readonly id: string;
    readonly personId: string;
    readonly label: string;
    readonly rights: readonly TokenRight[];
    readonly digest: string;
    readonly until: Date;
  }): Promise<void> => {
    await db('api_tokens').insert({
      id: row.id,
      person_id: row.personId,
      label: row.label,
      rights: [...row.rights],
      token_digest: row.digest,
      until: row.until,
    });
  },
  end: async (id: string, personId: string): Promise<boolean> =>
    (await db('api_tokens').where({ id, person_id: personId }).delete()) > 0,
  endAll: async (personId: string): Promise<void> => {
    await db('api_tokens').where({ person_id: personId }).delete();
  },
});
