import type { ClaimBody, InstrumentClaim, InstrumentOrder, Person } from '@clear-mark/contract';
import type { z } from 'zod';
import { attemptsStore, requireSight } from '../attempts/index.ts';
import { classesStore, classForMember } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import type { InstrumentHub } from './hub.ts';
import { foundInstrument, instrumentsStore } from './instruments.store.ts';
import { ScpiFailure } from './scpi-session.ts';

/** A claim that is not renewed ends by itself, so that a tablet whose battery died holds nothing. */
const CLAIM_MS = 30_000;

/** Whether this person is an instructor of the class, or the lead. */
const teaches = async (db: Database, classId: string, me: Person): Promise<boolean> =>
  me.role === 'lead' || (await classesStore(db).memberRole(classId, me.id)) === 'instructor';

/** Who has an instrument, and what only the one who has it may tell it. */
export const claimsService = (db: Database, hub: InstrumentHub) => {
  const store = instrumentsStore(db);
  const found = foundInstrument(db);
  return {
    claim: async (
      classId: string,
      thingId: string,
      body: z.infer<typeof ClaimBody>,
      me: Person,
      now: Date,
    ): Promise<InstrumentClaim> => {
      await classForMember(db, classId, me);
      await found(classId, thingId);
      const taken = await oneAtATime(db, 'instrument', thingId, async (trx) => {
        const attempt = await attemptsStore(trx).byId(body.attemptId);
        if (!attempt || attempt.classId !== classId) throw new AppError('not_found.attempt');
        await requireSight(trx, attempt, me);
        // Only an instructor of the class, or who has it, takes an instrument from another sheet.
        const inside = instrumentsStore(trx);
        const holder = await inside.holder(thingId, now);
        const takeOver = body.takeOver && (holder?.personId === me.id || (await teaches(trx, classId, me)));
        const until = new Date(now.getTime() + CLAIM_MS);
        return inside.claim(thingId, { ...body, takeOver, personId: me.id, until, now });
      });
      const { claim } = await found(classId, thingId);
      if (!taken) {
        const params = { person: claim?.personName ?? '', piece: claim?.pieceLabel ?? '' };
        throw new AppError('instrument.in_use', params);
      }
      return claim!;
    },

    /** By who has it, or an instructor of the class. A claim that is not there (any more) is released already. */
    release: async (
      classId: string,
      thingId: string,
      deviceId: string,
      me: Person,
      now: Date,
    ): Promise<void> => {
      await classForMember(db, classId, me);
      await found(classId, thingId);
      await oneAtATime(db, 'instrument', thingId, async (trx) => {
        const inside = instrumentsStore(trx);
        const holder = await inside.holder(thingId, now);
        if (holder === null || holder.deviceId !== deviceId) return;
        if (holder.personId !== me.id && !(await teaches(trx, classId, me))) {
          throw new AppError('instrument.in_use', { person: '', piece: '' });
        }
        await inside.release(thingId, now);
      });
    },

    order: async (
      classId: string,
      thingId: string,
      order: InstrumentOrder,
      me: Person,
      now: Date,
    ): Promise<void> => {
      await classForMember(db, classId, me);
      const instrument = await found(classId, thingId);
      const holder = await store.holder(thingId, now);
      if (holder?.personId !== me.id) throw new AppError('instrument.not_claimed');
      try {
        await hub.station(instrument).order(order);
      } catch (error) {
        if (!(error instanceof ScpiFailure)) throw error;
        if (error.fault === 'refused') throw new AppError('instrument.refused', { problem: order.order });
        throw new AppError('instrument.no_answer');
      }
    },
  };
};
