import type { Instrument, InstrumentKind, InstrumentSetting, Person } from '@clear-mark/contract';
import { classForMember, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import type { InstrumentHub } from './hub.ts';
import { foundInstrument, instrumentsStore } from './instruments.store.ts';
import { addressAllowed } from '../networks.ts';

/** The kinds of things that can be connected as a kind of instrument. */
const THINGS_OF: Readonly<Record<InstrumentKind, readonly string[]>> = {
  power_meter: ['instrument'],
  source: ['instrument'],
  port_light: ['instrument'],
  otdr: ['instrument'],
  splicer: ['splicer'],
};

export const instrumentsService = (db: Database, hub: InstrumentHub, networks: readonly string[]) => {
  const store = instrumentsStore(db);
  const found = foundInstrument(db);
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
      if (!addressAllowed(setting.host, networks)) throw new AppError('instrument.address_refused');
      const { calibratedOn, calibrationDueOn } = setting;
      if (calibratedOn !== null && calibrationDueOn !== null && calibrationDueOn < calibratedOn) {
        throw new AppError('instrument.days_crossed');
      }
      await oneAtATime(db, 'instrument', thingId, async (trx) => {
        const inside = instrumentsStore(trx);
        const kind = await inside.thingKind(classId, thingId);
        if (kind === null) throw new AppError('not_found.thing');
        if (!THINGS_OF[setting.kind].includes(kind))
          throw new AppError('instrument.wrong_thing', { given: kind });
        await inside.save(classId, thingId, setting);
      });
      hub.forget(thingId);
      return found(classId, thingId);
    },

    drop: async (classId: string, thingId: string, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      await store.drop(classId, thingId);
      hub.forget(thingId);
    },
  };
};
