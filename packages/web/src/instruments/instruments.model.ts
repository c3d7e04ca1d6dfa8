import { type InstrumentStamp, isSteady } from '@clear-mark/core';
import type {
  Instrument,
  InstrumentClaim,
  InstrumentEvent,
  InstrumentReading,
  PowerEvent,
  StationFault,
} from '@clear-mark/contract';

/** An instrument as this page sees it at present. */
export interface LiveInstrument {
  readonly instrument: Instrument;
  readonly state: 'connecting' | 'ready' | 'failed';
  readonly fault: StationFault | null;
  readonly identity: string | null;
  readonly claim: InstrumentClaim | null;
  /** The last thing that it showed; null while it is away. */
  readonly shows: InstrumentReading | null;
  /** Levels of the last seconds, for whether it has settled. */
  readonly levels: readonly {
    readonly level: number;
    readonly atMs: number;
    readonly wavelengthNm: number;
  }[];
}

const KEEP_MS = 4000;

export const fresh = (instrument: Instrument): LiveInstrument => ({
  instrument,
  state: 'connecting',
  fault: null,
  identity: null,
  shows: null,
  levels: [],
  claim: instrument.claim,
});

/** What an event makes of it. */
export function heard(before: LiveInstrument, event: InstrumentEvent): LiveInstrument {
  switch (event.kind) {
    case 'station': {
      const { state, fault, identity } = event;
      const away = state !== 'ready';
      return { ...before, state, fault, identity, ...(away ? { shows: null, levels: [] } : {}) };
    }
    case 'claim':
      return { ...before, claim: event.claim };
    case 'power':
      return { ...before, shows: event, levels: levelsWith(before.levels, event) };
    case 'splice':
    case 'ports':
    case 'source':
    case 'otdr':
      return { ...before, shows: event };
    default: {
      const never: never = event;
      return never;
    }
  }
}

function levelsWith(before: LiveInstrument['levels'], event: PowerEvent): LiveInstrument['levels'] {
  if (event.state !== 'reading' || (event.unit !== 'dBm' && event.unit !== 'dB')) return [];
  const atMs = Date.parse(event.at);
  const { wavelengthNm } = event;
  const same = before.filter((l) => l.wavelengthNm === wavelengthNm && atMs - l.atMs <= KEEP_MS);
  return [...same, { level: Number(event.text), atMs, wavelengthNm }];
}

export const steady = (live: LiveInstrument): boolean => isSteady(live.levels);

/** The calibration had run out on a day, YYYY-MM-DD. */
export const overdue = (instrument: Instrument, day: string): boolean =>
  instrument.calibrationDueOn !== null && instrument.calibrationDueOn < day;

/** What is kept beside a value that this instrument gave. */
export function stampOf(live: LiveInstrument, reading: InstrumentReading): InstrumentStamp {
  const { thingId, calibratedOn, calibrationDueOn } = live.instrument;
  return {
    thingId,
    identity: live.identity ?? live.instrument.label,
    wavelengthNm: 'wavelengthNm' in reading ? reading.wavelengthNm : null,
    calibratedOn,
    calibrationDueOn,
    at: reading.at,
    seq: reading.seq,
    ...(reading.shows === undefined ? {} : { shows: reading.shows }),
    ...(reading.token === undefined ? {} : { token: reading.token }),
  };
}

/** Who an instrument says that it is, from maker, model, serial and version, for reading. */
export function identityWords(identity: string): string {
  const [maker = '', model = '', serial = ''] = identity.split(',').map((part) => part.trim());
  return [maker, model, serial === '' ? '' : `no. ${serial}`].filter((part) => part !== '').join(' ');
}

/** Whether this device may take its readings: nobody else has claimed it. */
export const isFree = (live: LiveInstrument, deviceId: string): boolean =>
  live.claim === null || live.claim.deviceId === deviceId;
