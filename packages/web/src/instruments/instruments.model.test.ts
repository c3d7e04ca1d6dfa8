import type { Instrument, InstrumentEvent } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import {
  fresh,
  heard,
  identityWords,
  isFree,
  type LiveInstrument,
  overdue,
  stampOf,
  steady,
} from './instruments.model.ts';

const instrument: Instrument = {
  thingId: 't',
  label: 'Meter 1',
  kind: 'power_meter',
  host: 'h',
  port: 1,
  readingsPerSecond: 5,
  calibratedOn: '2026-01-10',
  calibrationDueOn: '2027-01-10',
  claim: null,
};
const at = (ms: number): string => new Date(1_700_000_000_000 + ms).toISOString();
const power = (ms: number, text: string, wavelengthNm = 1310): InstrumentEvent => ({
  thingId: 't',
  seq: ms,
  at: at(ms),
  kind: 'power',
  state: 'reading',
  text,
  unit: 'dBm',
  wavelengthNm,
});
const after = (...events: InstrumentEvent[]): LiveInstrument => events.reduce(heard, fresh(instrument));

describe('an instrument on this page', () => {
  it('shows its last reading, and settles', () => {
    const wandering = after(...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((i) => power(i * 200, String(-5 - i * 0.1))));
    expect(steady(wandering)).toBe(false);
    const still = after(...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((i) => power(i * 200, '-5.21')));
    expect(steady(still)).toBe(true);
    expect(still.shows).toMatchObject({ text: '-5.21' });
    // At another wavelength it begins again.
    expect(steady(heard(still, power(1800, '-5.8', 1550)))).toBe(false);
  });
  it('shows nothing while it is away', () => {
    const lost = after(power(0, '-5'), {
      thingId: 't',
      seq: 2,
      at: at(1),
      kind: 'station',
      state: 'failed',
      fault: 'silent',
      identity: null,
    });
    expect(lost).toMatchObject({ shows: null, levels: [], state: 'failed', fault: 'silent' });
  });
  it('stamps a value with itself, its calibration, wavelength and time', () => {
    const live = after(power(400, '-5.21', 1550));
    expect(stampOf(live, live.shows!)).toEqual({
      thingId: 't',
      identity: 'Meter 1',
      wavelengthNm: 1550,
      at: at(400),
      seq: 400,
      calibratedOn: '2026-01-10',
      calibrationDueOn: '2027-01-10',
    });
    const shown = { ...live.shows!, shows: 'power 1550 -5.21 dBm', token: 'proof' };
    expect(stampOf(live, shown)).toMatchObject({ shows: 'power 1550 -5.21 dBm', token: 'proof' });
    expect(overdue(instrument, '2027-01-10')).toBe(false);
    expect(overdue(instrument, '2027-01-11')).toBe(true);
  });
  it('says who it is', () => {
    expect(identityWords('Maker, Meter 3,0002,1.0')).toBe('Maker Meter 3 no. 0002');
    expect(identityWords('just a name')).toBe('just a name');
  });
  it('is another’s while another device has claimed it', () => {
    const claim = { attemptId: 'a', pieceLabel: 'T-01', personName: 'O', deviceId: 'd2', until: '' };
    const claimed = after({ thingId: 't', seq: 1, at: '', kind: 'claim', claim });
    expect([isFree(claimed, 'd1'), isFree(claimed, 'd2'), isFree(fresh(instrument), 'd1')]).toEqual([
      false,
      true,
      true,
    ]);
  });
});
