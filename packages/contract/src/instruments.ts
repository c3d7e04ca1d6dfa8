import { POWER_FAULTS } from '@clear-mark/core';
import { z } from 'zod';
import { Day, Id, oneOf } from './common.ts';

export const INSTRUMENT_KINDS = ['power_meter', 'source', 'splicer', 'port_light', 'otdr'] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

/** How an instrument of the class is reached. Host names and addresses only; the port of its SCPI socket. */
export const InstrumentSetting = z.object({
  kind: oneOf(INSTRUMENT_KINDS),
  host: z.string().regex(/^[a-z0-9.:-]{1,120}$/i, 'a host name or an address, such as 10.0.0.20'),
  port: z.number().int().min(1).max(65_535),
  readingsPerSecond: z.number().int().min(1).max(20),
  calibratedOn: Day.nullable(),
  calibrationDueOn: Day.nullable(),
});
export type InstrumentSetting = z.infer<typeof InstrumentSetting>;

/** Who takes readings of an instrument at present. */
export const InstrumentClaim = z.object({
  attemptId: Id,
  pieceLabel: z.string(),
  personName: z.string(),
  deviceId: Id,
  until: z.string(),
});
export type InstrumentClaim = z.infer<typeof InstrumentClaim>;

export const Instrument = InstrumentSetting.extend({
  /** Where it is, for those who teach; null for a trainee. */
  host: z.string().nullable(),
  port: z.number().int().nullable(),
  thingId: Id,
  label: z.string(),
  claim: InstrumentClaim.nullable(),
});
export type Instrument = z.infer<typeof Instrument>;

export const ClaimBody = z.object({
  attemptId: Id,
  deviceId: Id,
  /** Take it even though another sheet has it. */
  takeOver: z.boolean(),
});

export const InstrumentOrder = z.discriminatedUnion('order', [
  z.object({ order: z.literal('wavelength'), wavelengthNm: z.number().int().min(600).max(1700) }),
  z.object({ order: z.literal('light'), port: z.number().int().min(0).max(144) }),
]);
export type InstrumentOrder = z.infer<typeof InstrumentOrder>;

/** Why an instrument gives nothing. */
export const STATION_FAULTS = [
  'unreachable',
  'silent',
  'closed',
  'half_a_line',
  'line_too_long',
  'bad_block',
  'garbage',
  'refused',
  /** What the others are to a person who is not the lead: what answers behind an address is not told apart. */
  'no_answer',
] as const;
export type StationFault = (typeof STATION_FAULTS)[number];

/** A reading carries its words and the proof that the server gave it out. */
const stamp = { shows: z.string().optional(), token: z.string().optional() };
const head = { thingId: Id, seq: z.number().int(), at: z.string(), ...stamp };
const level = z.number().nullable();

const PowerEvent = z.discriminatedUnion('state', [
  z.object({
    ...head,
    kind: z.literal('power'),
    state: z.literal('reading'),
    text: z.string(),
    unit: z.enum(['dBm', 'dB', 'mW', 'uW', 'nW']),
    wavelengthNm: z.number().int(),
  }),
  z.object({
    ...head,
    kind: z.literal('power'),
    state: z.literal('no_light'),
    wavelengthNm: z.number().int(),
  }),
  z.object({ ...head, kind: z.literal('power'), state: z.literal('failed'), why: oneOf(POWER_FAULTS) }),
]);
export type PowerEvent = z.infer<typeof PowerEvent>;

/** What comes from an instrument: whether it is there, who takes its readings, and what it shows. */
export const InstrumentEvent = z.discriminatedUnion('kind', [
  z.object({
    ...head,
    kind: z.literal('station'),
    state: z.enum(['connecting', 'ready', 'failed']),
    fault: oneOf(STATION_FAULTS).nullable(),
    identity: z.string().nullable(),
  }),
  PowerEvent,
  z.object({
    ...head,
    kind: z.literal('splice'),
    leftDeg: level,
    rightDeg: level,
    estimateDb: level,
    proof: z.boolean().nullable(),
  }),
  z.object({ ...head, kind: z.literal('ports'), near: z.number().int(), far: z.number().int() }),
  z.object({ ...head, kind: z.literal('source'), on: z.boolean(), wavelengthNm: z.number().int() }),
  z.object({
    ...head,
    kind: z.literal('otdr'),
    wavelengthNm: z.number().int(),
    pulseNs: z.number().int(),
    rangeM: z.number(),
    averages: z.number().int(),
  }),
  z.object({ ...head, kind: z.literal('claim'), claim: InstrumentClaim.nullable() }),
]);
export type InstrumentEvent = z.infer<typeof InstrumentEvent>;
/** What shows something, as opposed to a change of state. */
export type InstrumentReading = Exclude<InstrumentEvent, { kind: 'station' | 'claim' }>;
