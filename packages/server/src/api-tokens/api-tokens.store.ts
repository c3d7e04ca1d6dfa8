import type { ApiToken, TokenRight } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface TokenRow {
  readonly id: string;
  readonly personId: string;
  readonly rights: readonly string[];
  readonly until: Date;
}

/** That a token was used is written down so often at most. */
const USED_EVERY = '1 minute';

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
  ofDigest: async (digest: string, now: Date): Promise<TokenRow | null> => {
    const [row] = await rowsOf<Omit<TokenRow, 'until'> & { until: Date | string }>(
      db,
      sql`select id, person_id as "personId", rights, until from api_tokens
           where token_digest = ${digest} and until > ${now}`,
    );
    return row ? { ...row, until: new Date(row.until) } : null;
  },
  used: async (id: string): Promise<void> => {
    await db('api_tokens')
      .where({ id })
      .whereRaw(`(last_used is null or last_used < now() - interval '${USED_EVERY}')`)
      .update({ last_used: db.fn.now() });
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
