import { analyseTrace, crc16, readSor } from '@clear-mark/core';
import { largeTrace, largeTraceFile } from './large-trace.ts';
import { type Measured, medianOf } from './measured.ts';

const ROUNDS = 25;

/** Kept, so that no loop is thought away. */
let sink = 0;

/** Reading a file of 128k points against one plain pass over its bytes and the checksum. */
export function benchTraceRead(): Measured {
  const bytes = largeTraceFile();
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
