import type { LinkUnderTest, LossRules, ReferenceMethod } from '../sheet/index.ts';

const CORDS: Readonly<Record<ReferenceMethod, number>> = {
  one_cord: 1,
  two_cord: 2,
  three_cord: 3,
  single_cord: 1,
};

/**
 * Connections inside the measured span: all mated pairs, both ends included, less (cords in the reference
 * - 1), never under 0. A single cord straight into the meter: the near connection only, since nothing
 * touches at a wide detector. The school that counts each connector takes every mated pair whatever the reference
 * held, and both connectors of a single cord. Unit: 1. Example: two end connections by two cords count 1.
 */
export function countedConnections(
  link: Pick<LinkUnderTest, 'matedPairs' | 'referenceMethod'>,
  counts: LossRules['counts'] = 'mated_pairs',
): number {
  if (counts === 'connectors') return link.referenceMethod === 'single_cord' ? 2 : link.matedPairs;
  if (link.referenceMethod === 'single_cord') return Math.min(link.matedPairs, 1);
  return Math.max(0, link.matedPairs - (CORDS[link.referenceMethod] - 1));
}
