import { responseElements, sentNumber } from './response.ts';

/** What a power meter says when it is asked `wavelength; unit; reading` in one message. */
export type PowerReading =
  | {
      readonly state: 'reading';
      /** Decimal text in the unit. */
      readonly text: string;
      readonly unit: 'dBm' | 'dB' | 'mW' | 'uW' | 'nW';
      readonly wavelengthNm: number;
    }
  | { readonly state: 'no_light'; readonly wavelengthNm: number }
  | { readonly state: 'failed'; readonly why: PowerFault };

export const POWER_FAULTS = ['unreadable', 'not_a_number', 'over_range', 'unknown_unit'] as const;
export type PowerFault = (typeof POWER_FAULTS)[number];

/** Factor from the unit that is sent to one of ours. */
const SENT_UNITS: Readonly<Record<string, readonly ['dBm' | 'dB' | 'mW' | 'uW' | 'nW', number]>> = {
  DBM: ['dBm', 1],
  DB: ['dB', 1],
  W: ['mW', 1000],
  MW: ['mW', 1],
  UW: ['uW', 1],
  NW: ['nW', 1],
};

/**
 * One reading with the wavelength and the unit that it was taken in, all from the same response, so that a setting that
 * is changed under way changes the reading's own label and can never be put to another one's. Wavelength in m.
 * Under range, or no power at all, is no light. Whatever cannot be read is a fault and never a number.
 * Example: `1.31E-06;DBM;-21.3` is -21.3 dBm at 1310 nm.
 */
export function powerReading(message: string): PowerReading {
  const elements = responseElements(message);
  if (elements.length !== 3) return { state: 'failed', why: 'unreadable' };
  const metres = sentNumber(elements[0]!);
  if (metres.state !== 'number') return { state: 'failed', why: 'unreadable' };
  const wavelengthNm = Math.round(Number(elements[0]) * 1e9);
  if (wavelengthNm < 600 || wavelengthNm > 1700) return { state: 'failed', why: 'unreadable' };
  const unit = SENT_UNITS[elements[1]!.toUpperCase()];
  if (!unit) return { state: 'failed', why: 'unknown_unit' };
  const number = sentNumber(elements[2]!);
  if (number.state === 'under_range') return { state: 'no_light', wavelengthNm };
  if (number.state !== 'number') return { state: 'failed', why: number.state };
  const linear = unit[0] !== 'dBm' && unit[0] !== 'dB';
  if (linear && number.value <= 0) return { state: 'no_light', wavelengthNm };
  const value = Number(elements[2]) * unit[1];
  return { state: 'reading', text: decimals(value, linear), unit: unit[0], wavelengthNm };
}

/** Levels to a thousandth of a dB, power to six digits: beyond what any meter resolves. */
function decimals(value: number, linear: boolean): string {
  if (!linear) return String(Math.round(value * 1000) / 1000 || 0);
  return Number(value.toPrecision(6)).toFixed(12).replace(/0+$/, '').replace(/\.$/, '');
}
