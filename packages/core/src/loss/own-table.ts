import type { FiberClass, LossRules, SourcedDb } from '../sheet/index.ts';
import { isSingleMode, wavelengthsOf } from './link-plan.ts';

export const FIBER_MODES = ['single_mode', 'multimode'] as const;
export type FiberMode = (typeof FIBER_MODES)[number];

/** What a school allows for the parts of a link, each figure with its source. */
export interface LossTable {
  readonly fiber: FiberMode;
  /** dB/km by wavelength in nm, for the wavelengths that such fiber is tested at. */
  readonly fiberDbPerKm: Readonly<Record<string, SourcedDb>>;
  readonly connectionDb: SourcedDb;
  readonly spliceDb: SourcedDb;
}

/** A version of a school's table, as a link or a method took it. */
export interface TakenLossTable extends LossTable {
  readonly title: string;
  readonly version: number;
}

/** Whether a class of fiber is single-mode or multimode. Example: `OM4` is `multimode`. */
export const fiberMode = (fiberClass: FiberClass): FiberMode =>
  isSingleMode(fiberClass) ? 'single_mode' : 'multimode';

/** The wavelengths that a table of such fiber has figures for, nm. */
export const wavelengthsOfMode = (mode: FiberMode): readonly number[] =>
  wavelengthsOf(mode === 'single_mode' ? 'OS2' : 'OM3');

/** These rules with the allowances of a school's table: what good work loses and the least of the fiber stay. */
export const withLossTable = (rules: LossRules, table: LossTable): LossRules => ({
  ...rules,
  fiberDbPerKm: table.fiberDbPerKm,
  connectionDb: table.connectionDb,
  spliceDb: table.spliceDb,
});
