import type { SimulatedBench } from './bench.ts';
import type { Command, ScpiInstrument } from './device.ts';
import type { Failure } from './failures.ts';
import {
  flagFrom,
  LENGTHS,
  LEVELS,
  limitFrom,
  numberFrom,
  type NumberRange,
  wordFrom,
} from './parameters.ts';
import { DeviceError } from './program-message.ts';

export const MAKER = 'Clear Mark stand-in';
const WAVELENGTHS = [850, 1300, 1310, 1490, 1550, 1625];
export const WAVELENGTH: NumberRange = {
  least: 850e-9,
  most: 1625e-9,
  byDefault: 1310e-9,
  suffixes: LENGTHS,
};
/** Numbers that stand for none (SCPI 1999, 7.2.1.4 and .5). */
const NOT_A_NUMBER = '9.91E+37';
const OVER_RANGE = '9.9E+37';
const UNDER_RANGE = '-9.9E+37';

export const metres = (m: number): string => m.toExponential(6).toUpperCase();
export const number = (value: number): string => value.toExponential(5).toUpperCase();
const flag = (on: boolean): string => (on ? '1' : '0');

/** A wavelength that the instrument has: others within its range are out of range as well. */
export function wavelengthFrom(text: string): number {
  const nm = Math.round(numberFrom(text, WAVELENGTH) * 1e9);
  if (!WAVELENGTHS.includes(nm)) throw new DeviceError('-222');
  return nm;
}

/** A setting that is a number, asked for as it is or by its limits: `SENS:POW:WAV? MAX`. */
export function numeric(
  range: NumberRange,
  get: (failure: Failure) => number,
  set: (text: string) => void,
  shown = number,
): Command {
  return {
    takes: 1,
    needs: 1,
    asksOf: 1,
    set: ([text]) => set(text!),
    ask: ([limit], failure) => {
      if (limit === undefined) return shown(get(failure));
      const value = limitFrom(limit, range);
      if (value === null) throw new DeviceError('-224');
      return shown(value);
    },
  };
}
const onOff = (get: () => boolean, set: (on: boolean) => void): Command => ({
  takes: 1,
  needs: 1,
  set: ([text]) => set(flagFrom(text!)),
  ask: () => flag(get()),
});

export function lightSource(bench: SimulatedBench): ScpiInstrument {
  const { source } = bench;
  return {
    identity: `${MAKER},Light source,0001,1.0`,
    reset: () => ([source.on, source.wavelengthNm] = [true, 1310]),
    commands: {
      'SOURce:POWer:STATe': onOff(
        () => source.on,
        (on) => (source.on = on),
      ),
      'SOURce:POWer:WAVelength': numeric(
        WAVELENGTH,
        () => source.wavelengthNm * 1e-9,
        (text) => (source.wavelengthNm = wavelengthFrom(text)),
        metres,
      ),
    },
  };
}

const COUNT: NumberRange = { least: 1, most: 1000, byDefault: 1 };
const LEVEL: NumberRange = { least: -90, most: 30, byDefault: 0, suffixes: LEVELS };
/** Levels over the range that is set are over range; the meter's own range ends here, dBm. */
const RANGE: NumberRange = { least: -60, most: 10, byDefault: 10, suffixes: LEVELS };

const settingsOfMeter = () => ({
  wavelengthNm: 1310,
  unit: 'DBM' as 'DBM' | 'W',
  count: 1,
  averages: false,
  rangeDbm: RANGE.byDefault,
  autoRange: true,
  referenceDbm: 0,
  relative: false,
  continuous: false,
});

/** The mean level of some readings in dBm, null when none of them sees light. */
function averaged(bench: SimulatedBench, count: number): number | null {
  const levels = Array.from({ length: count }, () => bench.level());
  const seen = levels.filter((level) => level !== null);
  if (seen.length === 0) return null;
  // Averaged as power, which is what falls on the detector.
  return 10 * Math.log10(seen.reduce((sum, level) => sum + 10 ** (level / 10), 0) / seen.length);
}

/**
 * A power meter. `READ:POWer?` starts a reading and gives it, in the unit that is set, or in dB over the reference while that
 * is on; `INITiate` and `FETCh:POWer?` are the two halves. Under range it says -9.9E+37, over range 9.9E+37.
 */
export function powerMeter(bench: SimulatedBench, serial = '0002'): ScpiInstrument {
  let now = settingsOfMeter();
  let taken: { readonly level: number | null } | null = null;
  function take(): void {
    taken = { level: averaged(bench, now.averages ? now.count : 1) };
  }
  function fetched(failure: Failure): string {
    if (now.continuous) take();
    if (!taken) throw new DeviceError('-230');
    if (failure === 'not_a_number') return NOT_A_NUMBER;
    if (failure === 'over_range') return OVER_RANGE;
    const { level } = taken;
    const inWatts = now.unit === 'W' && !now.relative;
    if (level === null) return inWatts ? '0' : UNDER_RANGE;
    if (!now.autoRange && level > now.rangeDbm) return OVER_RANGE;
    if (now.relative) return number(level - now.referenceDbm);
    return number(inWatts ? 10 ** (level / 10) / 1000 : level);
  }
  const fetch: Command = { ask: (_, failure) => fetched(failure) };
  return {
    identity: `${MAKER},Power meter,${serial},1.0`,
    reset: () => ([now, taken] = [settingsOfMeter(), null]),
    commands: {
      'SENSe:POWer:WAVelength': numeric(
        WAVELENGTH,
        (failure) => (failure === 'wrong_wavelength' ? 850 : now.wavelengthNm) * 1e-9,
        (text) => (now.wavelengthNm = wavelengthFrom(text)),
        metres,
      ),
      'UNIT:POWer': {
        takes: 1,
        needs: 1,
        set: ([text]) => (now.unit = wordFrom(text!, ['DBM', 'W'])),
        ask: (_, failure) => (failure === 'wrong_unit' ? 'FURLONG' : now.relative ? 'DB' : now.unit),
      },
      'SENSe:AVERage:COUNt': numeric(
        COUNT,
        () => now.count,
        (text) => (now.count = Math.round(numberFrom(text, COUNT))),
        String,
      ),
      'SENSe:AVERage[:STATe]': onOff(
        () => now.averages,
        (on) => (now.averages = on),
      ),
      'SENSe:POWer:RANGe[:UPPer]': numeric(
        RANGE,
        () => now.rangeDbm,
        // A range that is set by hand is no automatic one any more (SCPI 1999, 18.19).
        (text) => ([now.rangeDbm, now.autoRange] = [numberFrom(text, RANGE), false]),
      ),
      'SENSe:POWer:RANGe:AUTO': onOff(
        () => now.autoRange,
        (on) => (now.autoRange = on),
      ),
      'SENSe:POWer:REFerence': numeric(
        LEVEL,
        () => now.referenceDbm,
        (text) => (now.referenceDbm = numberFrom(text, LEVEL)),
      ),
      'SENSe:POWer:REFerence:STATe': onOff(
        () => now.relative,
        (on) => (now.relative = on),
      ),
      'INITiate[:IMMediate]': { set: () => take() },
      'INITiate:CONTinuous': onOff(
        () => now.continuous,
        (on) => (now.continuous = on),
      ),
      'FETCh[:SCALar]:POWer': fetch,
      'READ[:SCALar]:POWer': {
        ask: (_, failure) => {
          take();
          return fetched(failure);
        },
      },
    },
  };
}

/** Reports what it sees of the piece: angles of both sides, the estimate, and whether the proof test held. */
export function splicer(bench: SimulatedBench): ScpiInstrument {
  return {
    identity: `${MAKER},Splicer,0003,1.0`,
    reset: () => undefined,
    commands: {
      'SPLice:CLEave': {
        ask: () => `${number(bench.piece().left.angleDeg)},${number(bench.piece().right.angleDeg)}`,
      },
      'SPLice:FUSE': { set: () => bench.act({ act: 'fuse' }) },
      'SPLice:ESTimate': {
        ask: (_, failure) => {
          const { joint } = bench.piece();
          return failure === 'not_a_number' || !joint ? NOT_A_NUMBER : number(joint.estimateDb);
        },
      },
      'SPLice:PROof': {
        ask: () => {
          const { joint } = bench.piece();
          return joint ? flag(joint.holds) : NOT_A_NUMBER;
        },
      },
    },
  };
}

/** Lights a near port; the far port that lights with it, 0 for none. */
export function portLight(bench: SimulatedBench): ScpiInstrument {
  let near = 0;
  const ports = (): NumberRange => ({ least: 0, most: bench.piece().ports.length, byDefault: 0 });
  return {
    identity: `${MAKER},Port light,0004,1.0`,
    reset: () => void (near = 0),
    commands: {
      'ROUTe:LIGHt': {
        takes: 1,
        needs: 1,
        asksOf: 1,
        set: ([text]) => (near = Math.round(numberFrom(text!, ports()))),
        ask: ([limit]) => {
          if (limit === undefined) return String(near);
          const value = limitFrom(limit, ports());
          if (value === null) throw new DeviceError('-224');
          return String(value);
        },
      },
      'SENSe:PORT': { ask: () => String(near === 0 ? 0 : (bench.piece().ports[near - 1] ?? 0)) },
    },
  };
}
