import type { EntryValue } from '@clear-mark/core';
import type { InstrumentReading } from '@clear-mark/contract';
import { type LiveInstrument, stampOf } from '../../instruments/instruments.model.ts';

type SpliceReading = Extract<InstrumentReading, { kind: 'splice' }>;

/**
 * What a splicer reports as values of the criteria that splicing sheets share: cleave angles, estimate, proof test. What
 * it does not know yet is left open.
 */
export function spliceValues(
  live: LiveInstrument,
  shows: SpliceReading,
): readonly { readonly name: string; readonly value: EntryValue }[] {
  const instrument = stampOf(live, shows);
  const measured = (name: string, value: number | null, unit: 'deg' | 'dB', digits: number) =>
    value === null
      ? []
      : [{ name, value: { kind: 'measure', text: value.toFixed(digits), unit, instrument } as EntryValue }];
  return [
    ...measured('angle-left', shows.leftDeg, 'deg', 2),
    ...measured('angle-right', shows.rightDeg, 'deg', 2),
    ...measured('estimate', shows.estimateDb, 'dB', 2),
    ...(shows.proof === null
      ? []
      : [
          {
            name: 'proof',
            value: (shows.proof
              ? { kind: 'check', passed: true }
              : { kind: 'check', passed: false, faults: ['broke_in_proof'] }) as EntryValue,
          },
        ]),
  ];
}
