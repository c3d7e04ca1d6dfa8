import type { LinkUnderTest, LossRules, ReferenceMethod } from '../sheet/index.ts';
import { REFERENCE_SET_UPS } from './reference-chain.ts';

/** Pairs that the test itself adds to the link's own. */
const ADDED: Readonly<Partial<Record<ReferenceMethod, number>>> = { breakout: 2 };

/**
 * Connections inside the measured span: all mated pairs, both ends included, less (cords in the reference
 * - 1), never under 0. A single cord straight into the meter: the near connection only, since nothing
 * touches at a wide detector. Breakout cords add the pair at their single-fiber side to each end.
 * The practice that counts each connector takes every mated pair whatever the reference
 * held, and both connectors of a single cord. Unit: 1. Example: two end connections by two cords count 1.
 */
export function countedConnections(
  link: Pick<LinkUnderTest, 'matedPairs' | 'referenceMethod'>,
  counts: LossRules['counts'] = 'mated_pairs',
): number {
  const pairs = link.matedPairs + (ADDED[link.referenceMethod] ?? 0);
  if (counts === 'connectors') return link.referenceMethod === 'single_cord' ? 2 : pairs;
  if (link.referenceMethod === 'single_cord') return Math.min(pairs, 1);
  return Math.max(0, pairs - (REFERENCE_SET_UPS[link.referenceMethod].cords - 1));
}

/**
 * How many of the counted connections are ends mated to the test cords: those that may have the allowance of a
 * reference-grade plug. Example: one cord, two mated pairs: both.
 */
export function countedEnds(
  link: Pick<LinkUnderTest, 'matedPairs' | 'referenceMethod'>,
  counts: LossRules['counts'] = 'mated_pairs',
): number {
  const { test } = REFERENCE_SET_UPS[link.referenceMethod];
  const counted = countedConnections(link, counts);
  const ends = counts === 'connectors' ? 2 : test.joints.filter((j) => j === 'counted').length;
  return Math.min(counted, ends);
}
