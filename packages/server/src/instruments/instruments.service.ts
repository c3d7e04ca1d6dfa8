import type {
  ClaimBody,
  Instrument,
  InstrumentClaim,
  InstrumentKind,
  InstrumentOrder,
  InstrumentSetting,
  Person,
} from '@clear-mark/contract';
import type { z } from 'zod';
import { attemptsStore, requireSight } from '../attempts/index.ts';
import { classesStore, classForMember, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import type { InstrumentHub } from './hub.ts';
import { instrumentsStore, type PlacedInstrument } from './instruments.store.ts';
import { addressAllowed } from './networks.ts';
import { ScpiFailure } from './scpi-session.ts';

/** A claim that is not renewed ends by itself, so that a tablet whose battery died holds nothing. */
const CLAIM_MS = 30_000;
/** The kinds of things that can be connected as a kind of instrument. */
const THINGS_OF: Readonly<Record<InstrumentKind, readonly string[]>> = {
  power_meter: ['instrument'],
  source: ['instrument'],
  port_light: ['instrument'],
  splicer: ['splicer'],
};

/** Whether this person is an instructor of the class, or the lead. */
const teaches = async (db: Database, classId: string, me: Person): Promise<boolean> =>
  me.role === 'lead' || (await classesStore(db).memberRole(classId, me.id)) === 'instructor';

export const instrumentsService = (db: Database, hub: InstrumentHub, networks: readonly string[]) => {
  const store = instrumentsStore(db);
  const found = async (classId: string, thingId: string): Promise<PlacedInstrument> => {
    const instrument = await store.byId(classId, thingId);
    if (!instrument) throw new AppError('not_found.instrument');
    return instrument;
  };
  return {
    list: async (classId: string, me: Person): Promise<Instrument[]> => {
      await classForMember(db, classId, me);
      const all = await store.ofClass(classId);
      return me.role === 'trainee' ? all.map((i) => ({ ...i, host: null, port: null })) : all;
    },

    set: async (
      classId: string,
      thingId: string,
      setting: InstrumentSetting,
      me: Person,
    ): Promise<Instrument> => {
      await classForInstructor(db, classId, me);
      const kind = await store.thingKind(classId, thingId);
      if (kind === null) throw new AppError('not_found.thing');
      if (!THINGS_OF[setting.kind].includes(kind))
        throw new AppError('instrument.wrong_thing', { given: kind });
      if (!addressAllowed(setting.host, networks)) throw new AppError('instrument.address_refused');
      const { calibratedOn, calibrationDueOn } = setting;
      if (calibratedOn !== null && calibrationDueOn !== null && calibrationDueOn < calibratedOn) {
        throw new AppError('instrument.days_crossed');
      }
      await store.save(classId, thingId, setting);
      hub.forget(thingId);
      return found(classId, thingId);
    },

    drop: async (classId: string, thingId: string, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      await store.drop(classId, thingId);
      hub.forget(thingId);
    },

    claim: async (
      classId: string,
      thingId: string,
      body: z.infer<typeof ClaimBody>,
      me: Person,
      now: Date,
    ): Promise<InstrumentClaim> => {
      await classForMember(db, classId, me);
      await found(classId, thingId);
      const attempt = await attemptsStore(db).byId(body.attemptId);
      if (!attempt || attempt.classId !== classId) throw new AppError('not_found.attempt');
      await requireSight(db, attempt, me);
      // Only an instructor of the class, or who has it, takes an instrument from another sheet.
      const holder = await store.holder(thingId, now);
      const takeOver = body.takeOver && (holder?.personId === me.id || (await teaches(db, classId, me)));
      const until = new Date(now.getTime() + CLAIM_MS);
      const taken = await db.transaction((trx) =>
        instrumentsStore(trx).claim(thingId, { ...body, takeOver, personId: me.id, until, now }),
      );
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
      const holder = await store.holder(thingId, now);
      if (holder === null || holder.deviceId !== deviceId) return;
      if (holder.personId !== me.id && !(await teaches(db, classId, me))) {
        throw new AppError('instrument.in_use', { person: '', piece: '' });
      }
      await store.release(thingId, now);
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
