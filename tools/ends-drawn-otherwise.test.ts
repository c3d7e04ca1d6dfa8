import { cardOfMethod, type EndReading, measureEnd } from '@clear-mark/core';
import { type EndFault, rngFrom } from '@clear-mark/sim';
import { describe, expect, it } from 'vitest';
import { type OtherEnd, otherEnd } from '../packages/sim/src/other-end-for-tests.ts';
import { methodNamed } from './card-command.ts';
import { cardPicture } from './make-ends.ts';

const SIZE = { width: 1280, height: 960 };
const sheet = methodNamed('round-cord')!;
const card = cardOfMethod(sheet);
const picture = await cardPicture(card, sheet);

function measured(seed: number, fault: EndFault = 'none'): { photo: OtherEnd; reading: EndReading } {
  const photo = otherEnd(rngFrom(seed), picture, SIZE, fault);
  return { photo, reading: measureEnd(photo, card) };
}

describe('a prepared end photographed in a second way', () => {
  it.each([71, 72, 73])('has its lengths within what is said of them: seed %s', (seed) => {
    const { photo, reading } = measured(seed);
    if (!reading.ok) throw new Error(reading.reason);
    for (const layer of ['jacket', 'buffer', 'glass'] as const) {
      const length = reading[layer];
      // What cannot be told is not said; what is said holds.
      if (length === null) continue;
      const off = Math.abs(length.mm - photo.end[`${layer}Mm`]);
      expect(off, layer).toBeLessThan(Math.min(0.7, 3 * length.sdMm));
    }
    expect(reading.glass, 'glass').not.toBeNull();
  });
  it.each(['no_cable', 'glare'] as const)('is refused: %s', (fault) =>
    expect(measured(75, fault).reading).toEqual({ ok: false, reason: fault }),
  );
});
