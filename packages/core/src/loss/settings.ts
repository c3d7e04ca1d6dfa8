import type { UncertaintyPart } from '../sheet/index.ts';
import type { LaunchCord } from './launch.ts';
import type { TakenLossTable } from './own-table.ts';

export const COEFFICIENTS = ['inside', 'older', 'outside', 'maker'] as const;
export type Coefficients = (typeof COEFFICIENTS)[number];

/** What a school chooses for a link: which table, what is counted, which cords, and the budget where it has its own. */
export interface LossSettings {
  readonly coefficients: Coefficients;
  /** The school's own table, in place of the shipped allowances; it serves links of its fiber alone. */
  readonly table?: TakenLossTable | undefined;
  readonly counts: 'mated_pairs' | 'connectors';
  readonly referenceGrade: boolean;
  /** Multimode: mandrel or mode-controlled launch. */
  readonly conditioned: boolean;
  /** Multimode: the launch cord, as far as it was described. */
  readonly launch?: Omit<LaunchCord, 'coreUm'> | undefined;
  /** The school's own uncertainty budget; null takes the shipped one. */
  readonly budget: readonly UncertaintyPart[] | null;
}

/** Shipped: today's table of inside plant, mated pairs, any checked cord, conditioned launch. */
export const DEFAULT_LOSS_SETTINGS: LossSettings = {
  coefficients: 'inside',
  counts: 'mated_pairs',
  referenceGrade: false,
  conditioned: true,
  budget: null,
};
