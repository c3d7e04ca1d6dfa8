import { sorOfTrace, type Trace, writeSor } from '@clear-mark/core';
import { randomPlant, rngFrom, simulatedTrace, USUAL_METER } from '@clear-mark/sim';

const APART_M = 2500;
export const LARGE_POINTS = 131_072;
const LABELS = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };

/** A trace of 128k points, or more, whose fiber fills a good part of it. */
export function largeTrace(seed = 4, points = LARGE_POINTS): Trace {
  const rng = rngFrom(seed);
  const settings = { ...USUAL_METER, pulseNs: 100, points, noiseDb: -112 };
  return simulatedTrace(randomPlant(rng, (APART_M * points) / LARGE_POINTS), settings, rng);
}

export const largeTraceFile = (seed = 4, points = LARGE_POINTS): Uint8Array =>
  writeSor(sorOfTrace(largeTrace(seed, points), LABELS));
