import type { Person } from '@clear-mark/contract';
import { hash, verify } from '@node-rs/argon2';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { accountsStore } from './accounts.store.ts';
import { requireGoodPassword } from './passwords.ts';
import { secondFactors } from './second-factor.ts';
import { secondFactorStore } from './second-factor.store.ts';
import { accountKey } from './tries.store.ts';
import { triesOf } from './tries.ts';

/** The password of whoever is signed in. */
export const ownPassword = (db: Database) => ({
  /** Whoever is signed in shows that they know it. Errors: `auth.bad_credentials`, `auth.throttled`. */
  require: async (me: Person, password: string): Promise<void> => {
    const tries = triesOf(db);
    await tries.take(accountKey(me.login), null);
    const passwordHash = await accountsStore(db).passwordHash(me.id);
    if (passwordHash === null || !(await verify(passwordHash, password)))
      throw new AppError('auth.bad_credentials');
    await tries.forget(accountKey(me.login));
  },
});

/** What a person does with the own account. `session` is the one that asks. */
export const ownAccountService = (db: Database, now: () => Date) => {
  const tries = triesOf(db);
  const factors = secondFactors(db);
  const known = ownPassword(db);
  return {
    state: (me: Person) =>
      db.transaction(async (trx) => {
        const factor = await secondFactorStore(trx).lock(me.id);
        return {
          login: me.login,
          sessions: await accountsStore(trx).sessions(me.id),
          pin: await accountsStore(trx).hasPin(me.id),
          secondFactor: factor?.confirmed ?? false,
          secondFactorRequired: me.role === 'lead' && (await secondFactorStore(trx).leadsNeedOne()),
          recoveryCodesLeft: factor?.recovery.length ?? 0,
        };
      }),

    changePassword: async (
      { current, next }: { current: string; next: string },
      me: Person,
      session: string,
    ): Promise<void> => {
      await known.require(me, current);
      requireGoodPassword(next, me);
      const passwordHash = await hash(next);
      await db.transaction(async (trx) => {
        await accountsStore(trx).setPassword(me.id, passwordHash);
        await accountsStore(trx).dropCode(me.id);
        await accountsStore(trx).endSessions(me.id, session);
        await record(trx, { kind: 'account_password', by: me.id, person: me.id });
      });
    },

    endOtherSessions: (me: Person, session: string): Promise<void> =>
      db.transaction(async (trx) => {
        await accountsStore(trx).endSessions(me.id, session);
        await record(trx, { kind: 'account_sessions_ended', by: me.id, person: me.id });
      }),

    beginSecondFactor: async (me: Person, password: string) => {
      await known.require(me, password);
      return factors.begin(me, now());
    },
    confirmSecondFactor: async (me: Person, code: string): Promise<{ recoveryCodes: string[] }> => {
      await tries.take(accountKey(me.login), null);
      const recoveryCodes = await factors.confirm(me, code, now());
      await tries.forget(accountKey(me.login));
      return { recoveryCodes };
    },
    dropSecondFactor: async (me: Person, password: string): Promise<void> => {
      await known.require(me, password);
      if (me.role === 'lead' && (await secondFactorStore(db).leadsNeedOne()))
        throw new AppError('account.second_factor_required');
      await factors.drop(me.id, me.id);
    },

    secondFactorRequired: async () => ({ required: await secondFactorStore(db).leadsNeedOne() }),
    /** Whoever asks it of others has one. Error: `account.no_second_factor`. */
    requireSecondFactor: (required: boolean, me: Person): Promise<void> =>
      db.transaction(async (trx) => {
        const store = secondFactorStore(trx);
        if (required && !(await store.holds(me.id))) throw new AppError('account.no_second_factor');
        await store.setLeadsNeedOne(required);
        await record(trx, { kind: 'second_factor_required', by: me.id, detail: required ? 'yes' : 'no' });
      }),
  };
};
