import {
  actOn,
  type BenchAct,
  type BenchPiece,
  levelOf,
  newBenchPiece,
  normal,
  type OtdrCords,
  type Rng,
  rngFrom,
} from '@clear-mark/sim';

/** One bench with its one piece, seen by every stand-in on it. */
export interface SimulatedBench {
  readonly piece: () => BenchPiece;
  readonly act: (act: BenchAct) => void;
  readonly rng: Rng;
  /** Settings of the source: what it sends. */
  readonly source: { on: boolean; wavelengthNm: number };
  /** Fiber that the instruments are plugged into, counted from 1. */
  fiber: number;
  /** Where the OTDR stands, with its cords. */
  otdr: OtdrCords;
  /** Level at the meter now, dBm, with the source's wandering and the meter's noise; null for darkness. */
  readonly level: () => number | null;
}

/** A source wanders by a few hundredths of a dB over minutes. */
const WANDER_DB = 0.02;
const WANDER_MS = 600_000;
const NOISE_DB = 0.003;

export function simulatedBench(seed: number, now: () => number = Date.now): SimulatedBench {
  const rng = rngFrom(seed);
  let piece = newBenchPiece(rng);
  const started = now();
  const bench: SimulatedBench = {
    piece: () => piece,
    act: (act) => {
      piece = actOn(piece, act, rng);
    },
    rng,
    source: { on: true, wavelengthNm: 1310 },
    fiber: 1,
    otdr: { end: 'near', launchM: 500, receiveM: 300 },
    level: () => {
      if (!bench.source.on) return null;
      const drift = WANDER_DB * Math.sin((2 * Math.PI * (now() - started)) / WANDER_MS);
      const level = levelOf(piece, bench.source.wavelengthNm, drift, 'a_b', bench.fiber);
      return level === null ? null : level + normal(rng, 0, NOISE_DB);
    },
  };
  return bench;
}
