import { sorOfTrace, writeSor } from '@clear-mark/core';
import { otdrSettings, type OtdrSetting, plantOfBench, simulatedTrace } from '@clear-mark/sim';
import type { SimulatedBench } from './bench.ts';
import type { ScpiInstrument } from './device.ts';
import { MAKER, metres, number, numeric, WAVELENGTH, wavelengthFrom } from './instruments.ts';
import { LENGTHS, numberFrom, type NumberRange, TIMES } from './parameters.ts';
import { DeviceError } from './program-message.ts';

const PULSE: NumberRange = { least: 3e-9, most: 20e-6, byDefault: 30e-9, suffixes: TIMES };
const RANGE: NumberRange = { least: 100, most: 40_000, byDefault: 2000, suffixes: LENGTHS };
const COUNT: NumberRange = { least: 1, most: 1_000_000, byDefault: 16_384 };
const INDEX: NumberRange = { least: 1.3, most: 1.7, byDefault: 1.4677 };

const usual = (): OtdrSetting => ({
  wavelengthNm: 1310,
  pulseNs: 30,
  rangeM: RANGE.byDefault,
  averages: COUNT.byDefault,
  groupIndex: INDEX.byDefault,
});

/**
 * An OTDR before the bench's piece. `INITiate` takes a trace as it is set; `TRACe:DATA?` answers with it as a file of the published
 * layout, in a definite-length block (IEEE 488.2, 7.7.6). It lists no events: those are for whoever reads the trace.
 */
export function otdr(bench: SimulatedBench, now: () => number = Date.now): ScpiInstrument {
  let set = usual();
  let taken: Uint8Array | null = null;
  const take = (): void => {
    const plant = plantOfBench(bench.piece(), bench.otdr, set.wavelengthNm, bench.fiber);
    const trace = simulatedTrace(plant, otdrSettings(set), bench.rng);
    const labels = {
      cableId: 'Simulated bench',
      fiberId: String(bench.fiber),
      from: bench.otdr.end === 'near' ? 'A' : 'B',
      to: bench.otdr.end === 'near' ? 'B' : 'A',
      operator: '',
      comment: '',
      takenAtS: Math.floor(now() / 1000),
    };
    taken = writeSor(sorOfTrace(trace, labels));
  };
  return {
    identity: `${MAKER},OTDR,0005,1.0`,
    reset: () => ([set, taken] = [usual(), null]),
    commands: {
      'SOURce:WAVelength': numeric(
        WAVELENGTH,
        () => set.wavelengthNm * 1e-9,
        (text) => (set = { ...set, wavelengthNm: wavelengthFrom(text) }),
        metres,
      ),
      'SOURce:PULSe:WIDTh': numeric(
        PULSE,
        () => set.pulseNs * 1e-9,
        (text) => (set = { ...set, pulseNs: Math.round(numberFrom(text, PULSE) * 1e9) }),
        metres,
      ),
      'SENSe:RANGe:DISTance': numeric(
        RANGE,
        () => set.rangeM,
        (text) => (set = { ...set, rangeM: numberFrom(text, RANGE) }),
      ),
      'SENSe:AVERage:COUNt': numeric(
        COUNT,
        () => set.averages,
        (text) => (set = { ...set, averages: Math.round(numberFrom(text, COUNT)) }),
        String,
      ),
      'SENSe:INDex': numeric(
        INDEX,
        () => set.groupIndex,
        (text) => (set = { ...set, groupIndex: numberFrom(text, INDEX) }),
        number,
      ),
      'INITiate[:IMMediate]': { set: take },
      'TRACe:DATA': {
        ask: (_, failure) => {
          if (!taken) throw new DeviceError('-230');
          // A line that is broken off, or a file that was changed on the way.
          const bytes = failure === 'not_a_number' ? taken.slice(0, taken.length >> 1) : taken;
          const length = String(bytes.length);
          return `#${length.length}${length}${Buffer.from(bytes).toString('latin1')}`;
        },
      },
    },
  };
}
