import type { InstrumentClaim, InstrumentSetting } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';

const SETTING = [
  'i.thing_id as thingId',
  't.label',
  'i.kind',
  'i.host',
  'i.port',
  'i.readings_per_second as readingsPerSecond',
  'i.calibrated_on as calibratedOn',
  'i.calibration_due_on as calibrationDueOn',
];
type Stored = InstrumentSetting & { readonly thingId: string; readonly label: string };
/** An instrument with where it is. */
export type PlacedInstrument = Stored & { readonly claim: InstrumentClaim | null };

export const instrumentsStore = (db: Database) => ({
  ofClass: async (classId: string): Promise<PlacedInstrument[]> => {
    const rows: Stored[] = await db('instruments as i')
      .join('things as t', 't.id', 'i.thing_id')
      .select(SETTING)
      .where('i.class_id', classId)
      .whereNull('t.retired_at')
      .orderBy('t.label');
    const claims = await claimsOf(
      db,
      rows.map((r) => r.thingId),
    );
    return rows.map((row) => ({ ...row, claim: claims.get(row.thingId) ?? null }));
  },

  byId: async (classId: string, thingId: string): Promise<PlacedInstrument | null> => {
    const row = await db('instruments as i')
      .join('things as t', 't.id', 'i.thing_id')
      .select(SETTING)
      .where({ 'i.class_id': classId, 'i.thing_id': thingId })
      .first<Stored | undefined>();
    if (!row) return null;
    return { ...row, claim: (await claimsOf(db, [thingId])).get(thingId) ?? null };
  },

  thingKind: async (classId: string, thingId: string): Promise<string | null> =>
    (await db('things').select('kind').where({ class_id: classId, id: thingId }).first<{ kind: string }>())
      ?.kind ?? null,

  save: async (classId: string, thingId: string, s: InstrumentSetting): Promise<void> => {
    const columns = {
      kind: s.kind,
      host: s.host,
      port: s.port,
      readings_per_second: s.readingsPerSecond,
      calibrated_on: s.calibratedOn,
      calibration_due_on: s.calibrationDueOn,
    };
    await db('instruments')
      .insert({ thing_id: thingId, class_id: classId, ...columns })
      .onConflict('thing_id')
      .merge(columns);
  },

  drop: async (classId: string, thingId: string): Promise<void> => {
    await db('instruments').where({ class_id: classId, thing_id: thingId }).delete();
  },

  /** True when the claim is this device's now: it was free, run out, its own already, or is taken over. */
  claim: async (
    thingId: string,
    claim: {
      attemptId: string;
      personId: string;
      deviceId: string;
      until: Date;
      now: Date;
      takeOver: boolean;
    },
  ): Promise<boolean> => {
    const { rows } = await db.raw(
      `insert into instrument_claims (thing_id, attempt_id, person_id, device_id, until)
       values (?, ?, ?, ?, ?)
       on conflict (thing_id) do update set attempt_id = excluded.attempt_id, person_id = excluded.person_id,
         device_id = excluded.device_id, until = excluded.until
         where instrument_claims.until < ? or ?::boolean
           or (instrument_claims.device_id = excluded.device_id
               and instrument_claims.attempt_id = excluded.attempt_id)
       returning thing_id`,
      [thingId, claim.attemptId, claim.personId, claim.deviceId, claim.until, claim.now, claim.takeOver],
    );
    if (rows.length !== 1) return false;
    // The claim that runs on is one span; the one that it ends, ends now.
    const { attemptId, personId, deviceId, until, now } = claim;
    await db.raw(
      `update instrument_spans set until = least(until, ?)
        where thing_id = ? and until > ? and (attempt_id <> ? or device_id <> ?)`,
      [now, thingId, now, attemptId, deviceId],
    );
    const { rowCount } = await db.raw(
      `update instrument_spans set until = ? where thing_id = ? and attempt_id = ? and device_id = ? and until >= ?`,
      [until, thingId, attemptId, deviceId, now],
    );
    if (rowCount === 0) {
      await db('instrument_spans')
        .insert({
          thing_id: thingId,
          attempt_id: attemptId,
          person_id: personId,
          device_id: deviceId,
          from_at: now,
          until,
        })
        .onConflict(['thing_id', 'from_at'])
        .merge();
    }
    return true;
  },

  /** Who has it at present. */
  holder: async (thingId: string, now: Date): Promise<{ personId: string; deviceId: string } | null> =>
    (await db('instrument_claims')
      .select(['person_id as personId', 'device_id as deviceId'])
      .where({ thing_id: thingId })
      .where('until', '>', now)
      .first()) ?? null,

  release: async (thingId: string, now: Date): Promise<void> => {
    await db('instrument_claims').where({ thing_id: thingId }).delete();
    await db('instrument_spans').where({ thing_id: thingId }).where('until', '>', now).update({ until: now });
  },
});

/** An instrument of a class, connected. Error: `not_found.instrument`. */
export const foundInstrument =
  (db: Database) =>
  async (classId: string, thingId: string): Promise<PlacedInstrument> => {
    const instrument = await instrumentsStore(db).byId(classId, thingId);
    if (!instrument) throw new AppError('not_found.instrument');
    return instrument;
  };

async function claimsOf(db: Database, thingIds: readonly string[]): Promise<Map<string, InstrumentClaim>> {
  const rows: (InstrumentClaim & { thingId: string })[] = await db('instrument_claims as c')
    .join('attempts as a', 'a.id', 'c.attempt_id')
    .join('pieces as i', 'i.id', 'a.piece_id')
    .join('people as p', 'p.id', 'c.person_id')
    .select([
      'c.thing_id as thingId',
      'c.attempt_id as attemptId',
      'i.label as pieceLabel',
      'p.name as personName',
      'c.device_id as deviceId',
      'c.until',
    ])
    .whereIn('c.thing_id', thingIds as string[])
    .whereRaw('c.until > now()');
  return new Map(rows.map(({ thingId, ...claim }) => [thingId, claim]));
}
