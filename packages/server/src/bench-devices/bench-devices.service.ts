import { randomBytes } from 'node:crypto';
import type { BenchDevice, BenchDoor, Person } from '@clear-mark/contract';
import { verify } from '@node-rs/argon2';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { accountsStore, ownPassword, triesOf } from '../people/index.ts';
import { benchDevicesStore } from './bench-devices.store.ts';
import { hashOfPin, isWeakPin } from './pins.ts';

const pinKey = (personId: string): string => `pin ${personId}`;

/** Devices that stay at a bench, and the PINs by which people change there in a moment. `token` is the cookie of a device. */
export const benchDevicesService = (db: Database) => {
  const digestOf = (token: string | null): string | null => (token === null ? null : sha256(token));
  const benchOf = async (token: string | null) =>
    token === null ? null : benchDevicesStore(db).ofToken(sha256(token));
  return {
    door: async (token: string | null): Promise<BenchDoor | null> => {
      const bench = await benchOf(token);
      if (!bench) return null;
      const { label, className, classId } = bench;
      return { label, className, people: await benchDevicesStore(db).people(classId) };
    },

    /** Tries count for the person, on whatever device: guessing waits, and the password stays as it is. */
    enter: async (
      token: string | null,
      { personId, pin }: { personId: string; pin: string },
    ): Promise<{ person: Person; benchId: string }> => {
      const bench = await benchOf(token);
      if (!bench) throw new AppError('bench.none');
      const tries = triesOf(db);
      await tries.take(pinKey(personId), null);
      const found = await benchDevicesStore(db).byPin(bench.classId, personId);
      if (!found || !(await verify(found.pinHash, pin))) throw new AppError('auth.bad_pin');
      await tries.forget(pinKey(personId));
      const { pinHash: _, ...person } = found;
      // Looking at a PIN takes long, and one that is taken away in this moment was right when it was given.
      // eslint-disable-next-line server/check-then-write
      await accountsStore(db).signedIn(person.id);
      await record(db, { kind: 'sign_in', by: person.id, classId: bench.classId, detail: 'by PIN' });
      return { person, benchId: bench.id };
    },

    ofClass: async (classId: string, token: string | null, me: Person): Promise<BenchDevice[]> => {
      await classForInstructor(db, classId, me);
      return benchDevicesStore(db).ofClass(classId, digestOf(token));
    },

    /** Gives the cookie that makes a device one of the class's. */
    add: (
      classId: string,
      { id, label }: { id: string; label: string },
      before: string | null,
      me: Person,
    ): Promise<string> =>
      db.transaction(async (trx) => {
        await classForInstructor(trx, classId, me);
        const store = benchDevicesStore(trx);
        if (before !== null) await store.end({ token_digest: sha256(before) });
        const token = randomBytes(32).toString('hex');
        await store.insert({ id, classId, label, tokenDigest: sha256(token), madeBy: me.id });
        await record(trx, { kind: 'bench_made', by: me.id, classId });
        return token;
      }),

    end: (classId: string, id: string, me: Person): Promise<void> =>
      db.transaction(async (trx) => {
        await classForInstructor(trx, classId, me);
        if (!(await benchDevicesStore(trx).end({ id, class_id: classId }))) throw new AppError('bench.none');
        await record(trx, { kind: 'bench_ended', by: me.id, classId });
      }),

    setPin: async ({ password, pin }: { password: string; pin: string }, me: Person): Promise<void> => {
      if (me.role === 'lead') throw new AppError('account.lead_no_pin');
      if (isWeakPin(pin)) throw new AppError('auth.weak_pin');
      await ownPassword(db).require(me, password);
      const pinHash = await hashOfPin(pin);
      await db.transaction(async (trx) => {
        await benchDevicesStore(trx).setPin(me.id, pinHash);
        await triesOf(trx).forget(pinKey(me.id));
        await record(trx, { kind: 'pin_set', by: me.id, person: me.id });
      });
    },
    dropPin: (personId: string, me: Person): Promise<void> =>
      db.transaction(async (trx) => {
        if (!(await benchDevicesStore(trx).setPin(personId, null))) throw new AppError('not_found.person');
        await record(trx, { kind: 'pin_dropped', by: me.id, person: personId });
      }),
  };
};
