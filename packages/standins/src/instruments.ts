import type { SimulatedBench } from './bench.ts';
import type { CommandTable } from './commands.ts';
import type { Failure } from './failures.ts';
import type { ScpiInstrument } from './scpi-server.ts';

const MAKER = 'Clear Mark stand-in';
const WAVELENGTHS = [850, 1300, 1310, 1490, 1550, 1625];

function wavelengthFrom(argument: string): number {
  const nm = Math.round(Number(argument) * 1e9);
  if (!WAVELENGTHS.includes(nm)) throw new RangeError('wavelength');
  return nm;
}
const metres = (nm: number): string => (nm * 1e-9).toExponential(6).toUpperCase();
const number = (value: number): string => value.toExponential(5).toUpperCase();
const flag = (on: boolean): string => (on ? '1' : '0');

export function lightSource(bench: SimulatedBench): ScpiInstrument {
  const commands: CommandTable = {
    'SOURce:POWer:STATe': (argument) => {
      if (!/^(ON|OFF|1|0)$/i.test(argument)) throw new RangeError('state');
      bench.source.on = /^(ON|1)$/i.test(argument);
    },
    'SOURce:POWer:STATe?': () => flag(bench.source.on),
    'SOURce:POWer:WAVelength': (argument) => {
      bench.source.wavelengthNm = wavelengthFrom(argument);
    },
    'SOURce:POWer:WAVelength?': () => metres(bench.source.wavelengthNm),
  };
  return { identity: `${MAKER},Light source,0001,1.0`, commands };
}

/** `READ:POWer?` is answered in the unit that is set; under range it says -9.9E+37. */
export function powerMeter(bench: SimulatedBench, serial = '0002'): ScpiInstrument {
  let wavelengthNm = 1310;
  let unit: 'DBM' | 'W' = 'DBM';
  const reading = (failure: Failure): string => {
    if (failure === 'not_a_number') return '9.91E+37';
    if (failure === 'over_range') return '9.9E+37';
    const level = bench.level();
    if (level === null) return unit === 'DBM' ? '-9.9E+37' : '0';
    return number(unit === 'DBM' ? level : 10 ** (level / 10) / 1000);
  };
  const commands: CommandTable = {
    'SENSe:POWer:WAVelength': (argument) => {
      wavelengthNm = wavelengthFrom(argument);
    },
    'SENSe:POWer:WAVelength?': (_, failure) => metres(failure === 'wrong_wavelength' ? 850 : wavelengthNm),
    'UNIT:POWer': (argument) => {
      const wanted = argument.toUpperCase();
      if (wanted !== 'DBM' && wanted !== 'W') throw new RangeError('unit');
      unit = wanted;
    },
    'UNIT:POWer?': (_, failure) => (failure === 'wrong_unit' ? 'FURLONG' : unit),
    'READ:POWer?': (_, failure) => reading(failure),
  };
  return { identity: `${MAKER},Power meter,${serial},1.0`, commands };
}

/** Reports what it sees of the piece: angles of both sides, the estimate, and whether the proof test held. */
export function splicer(bench: SimulatedBench): ScpiInstrument {
  const commands: CommandTable = {
    'SPLice:CLEave?': () => `${number(bench.piece().left.angleDeg)},${number(bench.piece().right.angleDeg)}`,
    'SPLice:FUSE': () => bench.act({ act: 'fuse' }),
    'SPLice:ESTimate?': (_, failure) => {
      const joint = bench.piece().joint;
      return failure === 'not_a_number' || !joint ? '9.91E+37' : number(joint.estimateDb);
    },
    'SPLice:PROof?': () => {
      const joint = bench.piece().joint;
      return joint ? flag(joint.holds) : '9.91E+37';
    },
  };
  return { identity: `${MAKER},Splicer,0003,1.0`, commands };
}

/** Lights a near port; the far port that lights with it, 0 for none. */
export function portLight(bench: SimulatedBench): ScpiInstrument {
  let near = 0;
  const commands: CommandTable = {
    'ROUTe:LIGHt': (argument) => {
      const port = Number(argument);
      if (!Number.isInteger(port) || port < 0 || port > bench.piece().ports.length)
        throw new RangeError('port');
      near = port;
    },
    'ROUTe:LIGHt?': () => String(near),
    'SENSe:PORT?': () => String(near === 0 ? 0 : (bench.piece().ports[near - 1] ?? 0)),
  };
  return { identity: `${MAKER},Port light,0004,1.0`, commands };
}
