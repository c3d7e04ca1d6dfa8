import type { SorFile } from './sor-file.ts';

/** Metres a second in vacuum (SI, exact). */
export const LIGHT_M_S = 299_792_458;
const TICK_S = 1e-10;
const SPACING_OF = 10_000;

/** One trace in the units of the trade. */
export interface Trace {
  readonly wavelengthNm: number;
  readonly pulseNs: number;
  readonly groupIndex: number;
  /** Level of the backscatter of a pulse of 1 ns, dB, such as -79.5; null where the file does not say. */
  readonly backscatterDb: number | null;
  readonly averages: number;
  /** Of the first point, from the port. */
  readonly firstM: number;
  readonly spacingM: number;
  /** One-way dB (5 log) below the strongest that the file can say, so that they are 0 and less. */
  readonly levelsDb: Float64Array;
}

/**
 * Metres of a one-way time in units of 100 ps: c t / n (the file's times are half of the way there and back). Example: 24479 at an index
 * of 1.4677 are 500.01 m.
 */
export const metresOf = (ticks: number, groupIndex: number): number =>
  (ticks * TICK_S * LIGHT_M_S) / groupIndex;

/** The time of a place, the other way round. */
export const ticksOf = (metres: number, groupIndex: number): number =>
  (metres * groupIndex) / (TICK_S * LIGHT_M_S);

/** All traces of a file: several where it holds several pulses. */
export function tracesIn({ general, fixed, traces }: SorFile): Trace[] {
  const groupIndex = fixed.groupIndex / 1e5;
  return traces.map(({ scale, values }, i) => ({
    wavelengthNm: fixed.tenthsNm > 0 ? fixed.tenthsNm / 10 : general.wavelengthNm,
    pulseNs: fixed.pulsesNs[i]!,
    groupIndex,
    backscatterDb: fixed.backscatter === 0 ? null : -Math.abs(fixed.backscatter) / 10,
    averages: fixed.averages,
    firstM: metresOf(fixed.offset, groupIndex),
    spacingM: metresOf(fixed.spacings[i]! / SPACING_OF, groupIndex),
    levelsDb: levelsOf(values, scale),
  }));
}

/** An event as the file's own table lists it. */
export interface ListedEvent {
  readonly positionM: number;
  readonly kind: 'reflective' | 'non_reflective' | 'end';
  readonly lossDb: number;
  /** Null where none was measured. */
  readonly reflectanceDb: number | null;
  readonly saturated: boolean;
  readonly comment: string;
}

/**
 * The file's own table: the first letter of a kind says 0 for no reflection, 1 for one, 2 for a saturated one; the second E for the end
 * (SR-4731, from memory).
 */
export const listedEvents = ({ events, fixed }: SorFile): ListedEvent[] =>
  events.map((e) => ({
    positionM: metresOf(e.time, fixed.groupIndex / 1e5),
    kind: e.kind[1] === 'E' ? 'end' : e.kind.startsWith('0') ? 'non_reflective' : 'reflective',
    lossDb: e.loss / 1000,
    reflectanceDb: e.reflectance === 0 ? null : e.reflectance / 1000,
    saturated: e.kind.startsWith('2'),
    comment: e.comment.trim(),
  }));

function levelsOf(values: Uint16Array, scale: number): Float64Array {
  const levels = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) levels[i] = (-values[i]! * scale) / 1e6;
  return levels;
}
