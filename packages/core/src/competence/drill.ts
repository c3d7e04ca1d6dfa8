import type { Skill, Source } from '../sheet/index.ts';

export interface Consumable {
  readonly name: string;
  /** How much a piece takes, in the unit of its name. */
  readonly each: number;
  readonly unit: string;
}

/** A short piece of work that practises one thing. */
export interface Drill {
  readonly title: string;
  readonly how: string;
  /** Bench minutes a piece, where the class has timed too few of its own. */
  readonly minutesEach: number;
  readonly consumables: readonly Consumable[];
}

/** A school's own drill for a skill, or for one criterion of it: the last part of the criterion's id, which methods share. */
export interface OwnDrill extends Drill {
  readonly skill: Skill;
  readonly criterion: string | null;
  readonly source: Source;
}
