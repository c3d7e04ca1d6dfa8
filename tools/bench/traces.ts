import { analyseTrace, crc16, readSor, sorOfTrace, type Trace, writeSor } from '@clear-mark/core';
import { randomPlant, rngFrom, simulatedTrace, USUAL_METER } from '@clear-mark/sim';
import { type Measured, medianOf } from './measured.ts';

const POINTS = 131_072;
const APART_M = 2500;
const ROUNDS = 25;
const LABELS = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };

/** A trace of 128k points whose fiber fills a good part of it. */
function largeTrace(): Trace {
  const rng = rngFrom(4);
  const settings = { ...USUAL_METER, pulseNs: 100, points: POINTS, noiseDb: -112 };
  return simulatedTrace(randomPlant(rng, APART_M), settings, rng);
}

/** Kept, so that no loop is thought away. */
let sink = 0;

/** Reading a file of 128k points against one plain pass over its bytes and the checksum. */
export function benchTraceRead(): Measured {
  const bytes = writeSor(sorOfTrace(largeTrace(), LABELS));
  const plain = (): void => {
    let sum = 0;
    for (let i = 0; i < bytes.length; i++) sum += bytes[i]!;
    sink += sum + crc16(bytes, bytes.length - 2);
  };
  const [read, bare] = pairs(() => void (sink += readSor(bytes).traces.length), plain);
  return {
    name: 'a trace file of 128k points read / a pass over its bytes and the checksum',
    ratio: read / bare,
    most: 3,
    unit: 'times',
    detail: `${read.toFixed(2)} ms against ${bare.toFixed(2)} ms, median of ${ROUNDS}`,
  };
}

/** Finding the events of 128k points against a plain pass over them. */
export function benchTraceAnalysis(): Measured {
  const trace = largeTrace();
  let events = 0;
  const plain = (): void => {
    let sum = 0;
    for (let i = 0; i < trace.levelsDb.length; i++) sum += trace.levelsDb[i]!;
    sink += sum;
  };
  const [found, bare] = pairs(() => void (events = analyseTrace(trace).events.length), plain);
  return {
    name: 'events of a trace of 128k points found / a pass over its points',
    ratio: found / bare,
    most: 60,
    unit: 'times',
    detail: `${found.toFixed(2)} ms against ${bare.toFixed(3)} ms, median of ${ROUNDS}; ${events} events, ${sink === 0 ? 'nothing' : 'all'} summed`,
  };
}

/** Medians of both, taken in turn. */
function pairs(act: () => void, bare: () => void): [number, number] {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < ROUNDS; i++) {
    for (const [which, run] of [act, bare].entries()) {
      const began = performance.now();
      run();
      times[which]!.push(performance.now() - began);
    }
  }
  return [medianOf(times[0]), medianOf(times[1])];
}
