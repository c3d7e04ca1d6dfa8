import { randomInt } from 'node:crypto';
import type { Person } from '@clear-mark/contract';
import { Secret, TOTP } from 'otpauth';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { secondFactorStore } from './second-factor.store.ts';

/** Seconds of one code, and how many before and after are taken: clocks of phones are not exact (RFC 6238, 5.2 and 6). */
const STEP_S = 30;
const DRIFT = 1;
const RECOVERY_CODES = 8;
/** For how long a secret waits for its first code. */
const WAITS_MS = 15 * 60_000;

const totpOf = (secret: string, login = ''): TOTP =>
  new TOTP({
    issuer: 'Clear Mark',
    label: login,
    algorithm: 'SHA1',
    digits: 6,
    period: STEP_S,
    secret: Secret.fromBase32(secret),
  });

/** Letters and digits that are told apart by eye. */
const ALPHABET = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
export const readableCode = (length: number): string =>
  Array.from({ length }, () => ALPHABET[randomInt(ALPHABET.length)]!).join('');

export interface SecondFactors {
  /** A new secret, with the address that an authenticator reads. Error: `account.no_secret` where one holds. */
  begin: (me: Person, now: Date) => Promise<{ secret: string; address: string }>;
  /** The first code of it: from now on it is asked for. Gives the recovery codes, once. */
  confirm: (me: Person, code: string, now: Date) => Promise<string[]>;
  /** Takes a code, once. Error: `auth.bad_second_factor`. */
  take: (personId: string, code: string, now: Date) => Promise<void>;
  drop: (personId: string, by: string) => Promise<void>;
}

export const secondFactors = (db: Database): SecondFactors => ({
  begin: async (me, now) => {
    const secret = new Secret({ size: 20 }).base32;
    if (!(await secondFactorStore(db).begin(me.id, secret, now))) throw new AppError('account.no_secret');
    return { secret, address: totpOf(secret, me.login).toString() };
  },

  confirm: (me, code, now) =>
    db.transaction(async (trx) => {
      const store = secondFactorStore(trx);
      const there = await store.lock(me.id);
      if (!there || there.confirmed || now.getTime() - there.begunAt.getTime() > WAITS_MS)
        throw new AppError('account.no_secret');
      const step = stepOf(there.secret, code, now);
      if (step === null) throw new AppError('auth.bad_second_factor');
      const recovery = Array.from({ length: RECOVERY_CODES }, () => readableCode(10));
      await store.confirm(me.id, step, recovery.map(sha256));
      await record(trx, { kind: 'second_factor_on', by: me.id, person: me.id });
      return recovery;
    }),

  take: (personId, code, now) =>
    db.transaction(async (trx) => {
      const store = secondFactorStore(trx);
      const there = await store.lock(personId);
      if (!there?.confirmed) return;
      const digest = sha256(code);
      if (there.recovery.includes(digest)) {
        await store.usedRecovery(
          personId,
          there.recovery.filter((r) => r !== digest),
        );
        return;
      }
      const step = stepOf(there.secret, code, now);
      if (step === null || step <= there.lastStep) throw new AppError('auth.bad_second_factor');
      await store.used(personId, step);
    }),

  drop: (personId, by) =>
    db.transaction(async (trx) => {
      if (await secondFactorStore(trx).drop(personId))
        await record(trx, { kind: 'second_factor_off', by, person: personId });
    }),
});

/** The step of time that a code is of; null where it is of none near now. */
function stepOf(secret: string, code: string, now: Date): number | null {
  const timestamp = now.getTime();
  const delta = totpOf(secret).validate({ token: code, timestamp, window: DRIFT });
  return delta === null ? null : Math.floor(timestamp / 1000 / STEP_S) + delta;
}
