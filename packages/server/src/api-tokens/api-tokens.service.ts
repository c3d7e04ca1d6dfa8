import { randomBytes } from 'node:crypto';
import type { ApiToken, Person, TokenRight } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { apiTokensStore } from './api-tokens.store.ts';

const DAY_MS = 86_400_000;
/** So that a token that got into a file or a log is known for what it is. */
const PREFIX = 'clear-mark-';

export const apiTokensService = (db: Database, now: () => Date) => ({
  all: (me: Person): Promise<ApiToken[]> => apiTokensStore(db).ofPerson(me.id),
  add: (
    { id, label, rights, days }: { id: string; label: string; rights: readonly TokenRight[]; days: number },
    me: Person,
  ): Promise<{ token: string; until: string }> =>
    db.transaction(async (trx) => {
      const token = PREFIX + randomBytes(32).toString('hex');
      const until = new Date(now().getTime() + days * DAY_MS);
      await apiTokensStore(trx).insert({ id, personId: me.id, label, rights, digest: sha256(token), until });
      await record(trx, { kind: 'token_made', by: me.id, detail: `${days} days: ${rights.join(', ')}` });
      return { token, until: until.toISOString() };
    }),
  end: (id: string, me: Person): Promise<void> =>
    db.transaction(async (trx) => {
      if (!(await apiTokensStore(trx).end(id, me.id))) throw new AppError('not_found.token');
      await record(trx, { kind: 'token_ended', by: me.id });
    }),
});
