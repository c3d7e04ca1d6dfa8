import { powerReading, responseElements, sentNumber } from '@clear-mark/core';
import type { InstrumentKind, InstrumentOrder, InstrumentReading } from '@clear-mark/contract';

/** What an instrument shows, before the station has numbered and stamped it. */
export type Shown = InstrumentReading extends infer R
  ? R extends InstrumentReading
    ? Omit<R, 'thingId' | 'seq' | 'at'>
    : never
  : never;

export interface Driver {
  /** One query message for everything that belongs to one reading, so that its parts cannot come from two moments. */
  readonly poll: string;
  /** Null where the answer is not one of this kind of instrument. */
  readonly read: (message: string) => Shown | null;
  /** Every reading is told, or only one that differs from the last. */
  readonly everyReading: boolean;
  /** The message that carries an order out; null where this kind has no such order. */
  readonly order: (order: InstrumentOrder) => string | null;
}

const noOrder = (): null => null;
const metres = (nm: number): string => `${nm}E-9`;
const value = (text: string | undefined): number | null => {
  const number = sentNumber(text ?? '');
  return number.state === 'number' ? number.value : null;
};
const setWavelength =
  (header: string) =>
  (order: InstrumentOrder): string | null =>
    order.order === 'wavelength' ? `${header} ${metres(order.wavelengthNm)}` : null;

export const DRIVERS: Readonly<Record<InstrumentKind, Driver>> = {
  power_meter: {
    poll: 'SENS:POW:WAV?;:UNIT:POW?;:READ:POW?',
    read: (message) => ({ kind: 'power', ...powerReading(message) }),
    everyReading: true,
    order: setWavelength('SENS:POW:WAV'),
  },
  source: {
    poll: 'SOUR:POW:STAT?;:SOUR:POW:WAV?',
    read: (message) => {
      const [on, wavelength] = responseElements(message);
      const metre = value(wavelength);
      if ((on !== '0' && on !== '1') || metre === null) return null;
      return { kind: 'source', on: on === '1', wavelengthNm: Math.round(Number(wavelength) * 1e9) };
    },
    everyReading: false,
    order: setWavelength('SOUR:POW:WAV'),
  },
  splicer: {
    poll: 'SPL:CLE?;:SPL:EST?;:SPL:PRO?',
    read: (message) => {
      const elements = responseElements(message);
      if (elements.length !== 4) return null;
      const [leftDeg, rightDeg, estimateDb, proof] = elements.map(value);
      if (leftDeg === null || rightDeg === null) return null;
      return {
        kind: 'splice',
        leftDeg: leftDeg!,
        rightDeg: rightDeg!,
        estimateDb: estimateDb ?? null,
        proof: proof === 1 ? true : proof === 0 ? false : null,
      };
    },
    everyReading: false,
    order: noOrder,
  },
  otdr: {
    poll: 'SOUR:WAV?;:SOUR:PULS:WIDT?;:SENS:RANG:DIST?;:SENS:AVER:COUN?',
    read: (message) => {
      const elements = responseElements(message).map(value);
      const [metre, second, rangeM, averages] = elements;
      if (elements.length !== 4 || elements.some((x) => x === null)) return null;
      return {
        kind: 'otdr',
        wavelengthNm: Math.round(metre! * 1e9),
        pulseNs: Math.round(second! * 1e9),
        rangeM: rangeM!,
        averages: Math.round(averages!),
      };
    },
    everyReading: false,
    order: setWavelength('SOUR:WAV'),
  },
  port_light: {
    poll: 'ROUT:LIGH?;:SENS:PORT?',
    read: (message) => {
      const [near, far] = responseElements(message).map(value);
      if (!Number.isInteger(near) || !Number.isInteger(far)) return null;
      return { kind: 'ports', near: near!, far: far! };
    },
    everyReading: false,
    order: (order) => (order.order === 'light' ? `ROUT:LIGH ${order.port}` : null),
  },
};
