import type { LinkUnderTest, ReferenceMethod } from '../sheet/index.ts';

const CORDS: Readonly<Record<ReferenceMethod, number>> = {
  one_cord: 1,
  two_cord: 2,
  three_cord: 3,
  single_cord: 1,
};

/**
 * Connections inside the measured span: all mated pairs, both ends included, less (cords in the reference
 * - 1), never under 0. A single cord straight into the meter: the near connection only, since nothing
 * touches at a wide detector. Unit: 1. Example: two end connections by two cords count 1.
 */
export function countedConnections(link: Pick<LinkUnderTest, 'matedPairs' | 'referenceMethod'>): number {
  if (link.referenceMethod === 'single_cord') return Math.min(link.matedPairs, 1);
  return Math.max(0, link.matedPairs - (CORDS[link.referenceMethod] - 1));
}
