import type { TraceAnalysis } from './analyse-trace.ts';
import { levelAt } from './running-line.ts';
import { LIGHT_M_S, type Trace } from './trace.ts';

/** What a link sends back of the light that enters it. */
export interface ReturnLoss {
  readonly lossDb: number;
  /** Reflections went over what the receiver can show, so that it is this or less. */
  readonly atMost: boolean;
}

/**
 * Optical return loss from `fromM` to `toM`, dB: all light that comes back from there, against what enters at `fromM`. A point L dB over
 * the backscatter at the beginning is 10^(L/5) times as strong, and the backscatter of 1 ns is B, so that the share that comes back is
 * 10^(B/10) times the sum of 10^(L/5) over the points times the nanoseconds of a point; the pulse drops out. Uniform fiber of `a` dB/km
 * and length Z sends back B' / (2 a') (1 - exp(-2 a' Z)), which is what the sum becomes (common practice). Null where the file says no
 * backscatter level, where nothing enters, or the range is empty.
 */
export function returnLoss(
  trace: Trace,
  analysis: TraceAnalysis,
  fromM: number,
  toM: number,
): ReturnLoss | null {
  const first = indexOf(trace, fromM);
  const last = Math.min(indexOf(trace, toM), trace.levelsDb.length);
  const before =
    analysis.lines.filter((l) => l.fromM < fromM).at(-1) ?? analysis.lines.find((l) => l.toM > fromM);
  if (trace.backscatterDb === null || !before || last <= first) return null;
  const enters = levelAt(before.line, (fromM - trace.firstM) / trace.spacingM);
  let sum = 0;
  for (let i = Math.max(0, first); i < last; i++) sum += 10 ** ((trace.levelsDb[i]! - enters) / 5);
  const pointNs = ((2 * trace.spacingM * trace.groupIndex) / LIGHT_M_S) * 1e9;
  const lossDb = -trace.backscatterDb - 10 * Math.log10(sum * pointNs);
  const atMost = analysis.events.some((e) => e.saturated && e.positionM >= fromM - 1 && e.positionM <= toM);
  return { lossDb, atMost };
}

const indexOf = ({ firstM, spacingM }: Trace, metres: number): number =>
  Math.round((metres - firstM) / spacingM);
