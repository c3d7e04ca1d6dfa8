import {
  type AccountState,
  type GivenCode,
  INVITATION_DAYS,
  type Person,
  RESET_HOURS,
  type Role,
} from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import type { MailSettings } from '../config.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { accountsStore, type AccountRow } from './accounts.store.ts';
import { peopleStore } from './people.store.ts';
import { readableCode } from './second-factor.ts';

const HOUR_MS = 3_600_000;
/** Fifteen signs of thirty are 73 bits: nobody guesses them, so that a plain digest keeps them. */
const CODE_LENGTH = 15;
/** A code as it is read out: in groups of five. */
export const grouped = (code: string): string => code.match(/.{5}/g)!.join('-');
/** A sign-in name that is only made up, until the person chooses one with the first password. */
export const placeholderLogin = (id: string): string => `t-${id.replaceAll('-', '').slice(0, 30)}`;

/** Accounts, as leads keep them and as their people take them. */
export const accountsService = (db: Database, now: () => Date, mail: MailSettings | null = null) => {
  const forAccount = <T>(id: string, work: (trx: Database, account: AccountRow) => Promise<T>): Promise<T> =>
    withLivingAccount(db, id, work);

  async function codeFor(trx: Database, account: AccountRow, me: Person): Promise<GivenCode> {
    if (account.disabled) throw new AppError('account.disabled');
    const code = readableCode(CODE_LENGTH);
    const ms = account.signsIn ? RESET_HOURS * HOUR_MS : INVITATION_DAYS * 24 * HOUR_MS;
    const until = new Date(now().getTime() + ms);
    await accountsStore(trx).giveCode(account.id, sha256(code), until);
    const detail = account.signsIn ? 'for a new password' : 'to join';
    await record(trx, { kind: 'account_invited', by: me.id, person: account.id, detail });
    return { code: grouped(code), until: until.toISOString(), mail: mail !== null };
  }

  return {
    all: (): Promise<AccountState[]> => accountsStore(db).all(),

    invite: (given: { id: string; name: string; role: Role }, me: Person): Promise<GivenCode> =>
      createOnce(
        () =>
          db.transaction(async (trx) => {
            const person = { ...given, login: placeholderLogin(given.id) };
            await peopleStore(trx).insert(person, null);
            await record(trx, { kind: 'account_made', by: me.id, person: given.id, detail: given.role });
            return codeFor(trx, { ...person, signsIn: false, disabled: false, erased: false }, me);
          }),
        // Sent again: the first code was perhaps never seen, so another one takes its place.
        async () => {
          const there = await peopleStore(db).byId(given.id);
          if (there?.name !== given.name || there.role !== given.role) return null;
          return forAccount(given.id, (trx, account) => codeFor(trx, account, me));
        },
        () => true,
      ),

    giveCode: (id: string, me: Person): Promise<GivenCode> =>
      forAccount(id, (trx, account) => codeFor(trx, account, me)),

    withdrawCode: (id: string, me: Person): Promise<void> =>
      forAccount(id, async (trx) => {
        if (await accountsStore(trx).dropCode(id))
          await record(trx, { kind: 'account_code_withdrawn', by: me.id, person: id });
      }),

    change: (id: string, to: { name: string; role: Role }, me: Person): Promise<void> =>
      forAccount(id, async (trx, account) => {
        const store = accountsStore(trx);
        if (to.role !== account.role) {
          await requireOtherLead(trx, account, to.role);
          const roles = await store.rolesInClasses(id);
          const hinders = roles.find((role) => (role === 'trainee') !== (to.role === 'trainee'));
          if (hinders !== undefined)
            throw new AppError('account.role_in_class', { name: account.name, role: hinders });
          const detail = `${account.role} to ${to.role}`;
          await record(trx, { kind: 'account_role', by: me.id, person: id, detail });
        }
        if (to.name !== account.name) await record(trx, { kind: 'account_renamed', by: me.id, person: id });
        await store.change(id, to);
      }),

    disable: (id: string, disabled: boolean, me: Person): Promise<void> =>
      forAccount(id, async (trx, account) => {
        if (account.disabled === disabled) return;
        if (disabled) await requireOtherLead(trx, account, null);
        await accountsStore(trx).disable(id, disabled);
        if (disabled) {
          await accountsStore(trx).dropCode(id);
          await accountsStore(trx).endSessions(id, null);
        }
        await record(trx, { kind: disabled ? 'account_disabled' : 'account_enabled', by: me.id, person: id });
      }),

    endSessions: (id: string, me: Person): Promise<void> =>
      forAccount(id, async (trx) => {
        await accountsStore(trx).endSessions(id, null);
        await record(trx, { kind: 'account_sessions_ended', by: me.id, person: id });
      }),
  };
};

/** What is done to one account at a time, with the account as it is. Error: `not_found.person`. */
export const withAccount = <T>(
  db: Database,
  id: string,
  work: (trx: Database, account: AccountRow) => Promise<T>,
): Promise<T> =>
  // One lock for all: that a lead is left is a rule about several accounts.
  oneAtATime(db, 'accounts', 'all', async (trx) => {
    const account = await accountsStore(trx).lock(id);
    if (!account) throw new AppError('not_found.person');
    return work(trx, account);
  });

/** The same for an account that was not erased. Errors: `not_found.person`, `account.erased`. */
export const withLivingAccount = <T>(
  db: Database,
  id: string,
  work: (trx: Database, account: AccountRow) => Promise<T>,
): Promise<T> =>
  withAccount(db, id, (trx, account) => {
    if (account.erased) throw new AppError('account.erased');
    return work(trx, account);
  });

/** Error: `account.last_lead`. */
export async function requireOtherLead(trx: Database, account: AccountRow, to: Role | null): Promise<void> {
  if (account.role !== 'lead' || to === 'lead') return;
  if ((await accountsStore(trx).otherLeads(account.id)) === 0) throw new AppError('account.last_lead');
}
