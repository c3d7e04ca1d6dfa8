import { type SimulatedBench, simulatedBench } from './bench.ts';
import { startControl } from './control.ts';
import { lightSource, portLight, powerMeter, splicer } from './instruments.ts';
import { otdr } from './otdr.ts';
import type { ScpiInstrument } from './device.ts';
import { type StandIn, startScpi } from './scpi-server.ts';

export const STAND_INS = ['source', 'meter', 'splicer', 'ports', 'otdr'] as const;
export type StandInName = (typeof STAND_INS)[number];

const MAKERS: Readonly<Record<StandInName, (bench: SimulatedBench) => ScpiInstrument>> = {
  source: lightSource,
  meter: powerMeter,
  splicer,
  ports: portLight,
  otdr,
};

export interface RunningStandIns {
  readonly bench: SimulatedBench;
  readonly instruments: Readonly<Record<StandInName, StandIn>>;
  /** Port of the control on loopback. */
  readonly controlPort: number;
  readonly stop: () => Promise<void>;
}

/** Simulated instruments, all or those named, in front of one piece, each on a free port of loopback. */
export async function startStandIns(
  seed: number,
  names: readonly StandInName[] = STAND_INS,
): Promise<RunningStandIns> {
  const bench = simulatedBench(seed);
  const started: Partial<Record<StandInName, StandIn>> = {};
  for (const name of names) started[name] = await startScpi(MAKERS[name](bench));
  const instruments = started as Record<StandInName, StandIn>;
  const control = await startControl(bench, instruments);
  return {
    bench,
    instruments,
    controlPort: control.port,
    stop: async () => {
      await control.stop();
      for (const name of names) await instruments[name].stop();
    },
  };
}
