import type { Unit } from '../units/index.ts';
import type { Skill, ThingKind } from './skills.ts';

export const CRITERION_KINDS = [
  'check',
  'measure',
  'count',
  'timed',
  'grade',
  'readings',
  'loss',
  'map',
  'call',
] as const;
export type CriterionKind = (typeof CRITERION_KINDS)[number];

/** Where a limit comes from, shown beside it wherever it is shown. */
export const SOURCE_KINDS = ['common_practice', 'standard', 'house'] as const;
export interface Source {
  readonly kind: (typeof SOURCE_KINDS)[number];
  /** Written down without the text at hand: to be checked against the school's own copy. */
  readonly fromMemory: boolean;
  readonly words: string;
}

/** One end of a band. `value` is decimal text in the criterion's unit; inclusive unless `exclusive`. */
export interface Limit {
  readonly value: string;
  readonly exclusive?: boolean;
  readonly source: Source;
}

export interface Band {
  readonly lower?: Limit;
  readonly upper?: Limit;
  readonly target?: string;
}

/** Expanded uncertainty (k = 2) in the criterion's unit, as decimal text. */
export interface StatedUncertainty {
  readonly value: string;
  readonly source: Source;
}

/** Places on the prepared end that a step works on; they name the parts of the strip drawing. */
export const PLACES = ['jacket', 'yarn', 'buffer', 'glass', 'connector', 'bench', 'instruments'] as const;
export type Place = (typeof PLACES)[number];

interface CriterionBase {
  /** Namespaced, lasting across versions: `pack/method/criterion`. */
  readonly id: string;
  readonly label: string;
  readonly skill?: Skill;
  readonly points: number;
  readonly critical: boolean;
  readonly required: boolean;
  /** A breach ends the attempt at once. */
  readonly stop?: boolean;
  readonly acceptsTrainee?: boolean;
  readonly hint?: string;
  /** Named faults, offered when the criterion fails. Codes of the words catalogue. */
  readonly faults?: readonly string[];
  readonly source: Source;
}

export interface CheckCriterion extends CriterionBase {
  readonly kind: 'check';
}
export interface MeasureCriterion extends CriterionBase {
  readonly kind: 'measure';
  readonly unit: Unit;
  readonly band: Band;
  /** Id of another measure of the sheet that is taken off before the band is asked: a strip less the tube that goes over it. */
  readonly less?: string;
  /** Id of the loss of a row of fibers whose range, most less least, this is: worked out and not typed. In dB. */
  readonly rangeOf?: string;
  readonly uncertainty?: StatedUncertainty;
}
/** Whether a value follows from other entries of the sheet, so that nobody types it. */
export const isWorkedOut = (
  criterion: Criterion,
): criterion is MeasureCriterion & { readonly rangeOf: string } =>
  criterion.kind === 'measure' && criterion.rangeOf !== undefined;

export interface CountCriterion extends CriterionBase {
  readonly kind: 'count';
  readonly noun: string;
  readonly band: Band;
}
export interface TimedCriterion extends CriterionBase {
  readonly kind: 'timed';
  /** Band in seconds. */
  readonly band: Band;
}
export interface GradeLevel {
  readonly id: string;
  readonly label: string;
  readonly verdict: 'pass' | 'marginal_pass' | 'marginal_fail' | 'fail';
  /** Points for this level, 0 to the criterion's points. */
  readonly points: number;
  /** Name of a drawing in the methods package. */
  readonly drawing?: string;
}
export interface GradeCriterion extends CriterionBase {
  readonly kind: 'grade';
  readonly levels: readonly GradeLevel[];
}
/** How a criterion is filled: by every piece, when an instructor sees it, or from the trainee's own entry. */
export const COVERAGES = ['required', 'sampled', 'trainee'] as const;
export type Coverage = (typeof COVERAGES)[number];

/** From the near end A to the far end B, or back. */
export const DIRECTIONS = ['a_b', 'b_a'] as const;
export type Direction = (typeof DIRECTIONS)[number];

/** What a criterion is read for: one reading for each fiber, wavelength and direction. */
export interface Across {
  /** Fibers 1 to this; absent where there is one. */
  readonly fibers?: number;
  /** Fibers among these that are dark by design: they are not read. */
  readonly darkFibers?: readonly number[];
  readonly wavelengthsNm?: readonly number[];
  readonly directions?: readonly Direction[];
}
/** The same measurement in parts, each against the same band; the worst of them decides. */
export interface ReadingsCriterion extends CriterionBase, Across {
  readonly kind: 'readings';
  readonly unit: Unit;
  readonly band: Band;
  readonly uncertainty?: StatedUncertainty;
  /** One joint seen from both sides: the mean of the two directions is its value. */
  readonly combine?: 'mean_of_directions';
}
export interface LossCriterion extends CriterionBase, Across {
  readonly kind: 'loss';
  readonly wavelengthsNm: readonly number[];
  readonly link: LinkUnderTest;
  readonly rules: LossRules;
  /** The check of the launch's mode conditioning: broken, a reading is not accepted. */
  readonly conditionedBy?: string;
}

export const TRUNK_TYPES = ['A', 'B', 'C'] as const;
export type TrunkType = (typeof TRUNK_TYPES)[number];

/** Which far port lights for each near one, against what the trunk must do. */
export interface MapCriterion extends CriterionBase {
  readonly kind: 'map';
  readonly ports: number;
  readonly trunk: TrunkType;
  /** What light passes on its way, where that is more than the trunk. */
  readonly parts?: readonly ChannelPart[];
}
/** What light passes on its way from the near ports to the far ones. */
export type ChannelPart =
  /** Duplex cords, one a pair: A-to-B cords cross their pair, A-to-A ones do not. */
  | { readonly kind: 'cords'; readonly crossed: boolean }
  /** A cassette, one a row of 12; turned, its row is reversed. */
  | { readonly kind: 'cassette'; readonly turned: boolean }
  | { readonly kind: 'trunk'; readonly type: TrunkType };

/** The trainee's own pass or fail, against the verdict of another criterion or the instructor's. */
export interface CallCriterion extends CriterionBase {
  readonly kind: 'call';
  /** The criterion whose verdict is the reference; absent where the instructor gives it. */
  readonly of?: string;
}
export type Criterion =
  | CheckCriterion
  | MeasureCriterion
  | CountCriterion
  | TimedCriterion
  | GradeCriterion
  | ReadingsCriterion
  | LossCriterion
  | MapCriterion
  | CallCriterion;

export const FIBER_CLASSES = ['OS1', 'OS2', 'OM1', 'OM2', 'OM3', 'OM4', 'OM5'] as const;
export type FiberClass = (typeof FIBER_CLASSES)[number];

export const REFERENCE_METHODS = [
  'one_cord',
  'two_cord',
  'three_cord',
  'single_cord',
  'breakout',
  'large_area',
] as const;
export type ReferenceMethod = (typeof REFERENCE_METHODS)[number];

/** A stretch of fiber with coefficients of its own, as its data sheet has them; dB/km by wavelength in nm. */
export interface OwnFiber {
  readonly lengthM: number;
  readonly dbPerKm: Readonly<Record<string, number>>;
}

export interface LinkUnderTest {
  readonly fiberClass: FiberClass;
  readonly lengthM: number;
  /** Stretches of this length that have coefficients of their own; all else has those of the table. */
  readonly ownFiber?: readonly OwnFiber[];
  /** All mated pairs between launch cord and meter, both ends included. */
  readonly matedPairs: number;
  readonly splices: number;
  readonly referenceMethod: ReferenceMethod;
}

/** A decibel figure with the place it comes from. */
export interface SourcedDb {
  readonly db: number;
  readonly source: Source;
}

export interface UncertaintyPart {
  readonly name: string;
  readonly shape: 'rectangular' | 'triangular' | 'standard';
  /** Half-width for a rectangle or triangle, standard uncertainty otherwise; dB. */
  readonly db: number;
  /** It stands for how far the reference may move; read again, what it moved by takes its place. */
  readonly of?: 'drift' | undefined;
}

export interface LossRules {
  /** A limit set outright, in place of the sum of the allowances. */
  readonly limitDb?: SourcedDb;
  readonly connectionDb: SourcedDb;
  /** What an allowance is for: a mated pair inside the measured span (the default), or each connector. */
  readonly counts?: 'mated_pairs' | 'connectors';
  /** For each end connection inside the span, where the cords are of reference grade; the connection's without it. */
  readonly referenceEndDb?: SourcedDb;
  readonly spliceDb: SourcedDb;
  /** Limit coefficient in dB/km by wavelength in nm. */
  readonly fiberDbPerKm: Readonly<Record<string, SourcedDb>>;
  /** What good work loses. */
  readonly expectedConnectionDb: SourcedDb;
  readonly expectedSpliceDb: SourcedDb;
  readonly expectedFiberDbPerKm: Readonly<Record<string, number>>;
  /** Least loss of the fiber alone, dB/km by wavelength in nm. */
  readonly floorDbPerKm: Readonly<Record<string, number>>;
  readonly negativeToleranceDb: SourcedDb;
  readonly driftLimitDb: SourcedDb;
  readonly referenceAgeLimitHours: number;
  /** At or under this a typed level is no light, dBm; a floor of the house where the rules do not say. */
  readonly meterFloorDbm?: { readonly dbm: number; readonly source: Source };
  readonly bendStepDb: SourcedDb;
  readonly uncertainty: readonly UncertaintyPart[];
}

export interface Caution {
  readonly text: string;
  readonly stop: boolean;
}

export interface Step {
  readonly id: string;
  readonly title: string;
  readonly skill: Skill;
  readonly place: Place;
  readonly how: string;
  /** Name of a drawing in the methods package, where words fail. */
  readonly drawing?: string;
  readonly cautions?: readonly Caution[];
  readonly criteria: readonly Criterion[];
}

/** The prepared end to scale: how much of each layer is off, in mm from the fiber's end. */
export interface StripGeometry {
  readonly jacketMm: number;
  readonly bufferMm: number;
  readonly cleaveMm: number;
}

/** What a choice of practice changes on a sheet. */
export type PracticeChange =
  | { readonly change: 'leave_out'; readonly criterion: string }
  | { readonly change: 'require'; readonly criterion: string; readonly required: boolean }
  | { readonly change: 'band'; readonly criterion: string; readonly band: Band }
  | { readonly change: 'wavelengths'; readonly criterion: string; readonly wavelengthsNm: readonly number[] }
  | { readonly change: 'rules'; readonly criterion: string; readonly rules: Partial<LossRules> }
  | { readonly change: 'trunk'; readonly criterion: string; readonly trunk: TrunkType }
  | { readonly change: 'label'; readonly criterion: string; readonly label: string }
  /** What a level of a scale is worth. */
  | {
      readonly change: 'level';
      readonly criterion: string;
      readonly level: string;
      readonly verdict: GradeLevel['verdict'];
      readonly points: number;
    }
  | { readonly change: 'how'; readonly step: string; readonly how: string }
  /** A step that the shipped sheet does not have, after one that it has. */
  | { readonly change: 'add_step'; readonly after: string; readonly step: Step }
  /** The fiber that is terminated: the sheet's class, and what it may lose at which wavelengths. */
  | { readonly change: 'fiber_class'; readonly fiberClass: FiberClass }
  | {
      readonly change: 'link_fiber';
      readonly criterion: string;
      readonly fiberClass: FiberClass;
      readonly wavelengthsNm: readonly number[];
      readonly rules: LossRules;
      /** What the other choices of practice make of it on this fiber: by the practice's id, then the option's. */
      readonly under?: Readonly<Record<string, Readonly<Record<string, FiberUnderPractice>>>>;
    };

/** What an option of another practice changes on a loss that was put on another fiber. */
export interface FiberUnderPractice {
  readonly wavelengthsNm?: readonly number[];
  readonly rules?: Partial<LossRules>;
}

export interface PracticeAlternative {
  readonly id: string;
  readonly label: string;
  readonly changes: readonly PracticeChange[];
}

/** A question on which practitioners disagree: the choices, the one that ships, and why. */
export interface PracticeOption {
  readonly id: string;
  readonly question: string;
  readonly options: readonly PracticeAlternative[];
  readonly default: string;
  readonly reason: string;
}

/** Chosen options by practice; a practice that is not named stays at its default. */
export type PracticeChoices = Readonly<Record<string, string>>;

export const PIECE_KINDS = ['connector', 'cord', 'splice', 'link'] as const;

export interface MethodSheet {
  readonly id: string;
  readonly version: number;
  readonly title: string;
  readonly summary: string;
  readonly pieceKind: (typeof PIECE_KINDS)[number];
  readonly fiberClass: FiberClass;
  readonly passMarkPercent: number;
  readonly passMarkSource: Source;
  readonly strip?: StripGeometry;
  readonly cautions: readonly Caution[];
  /** Kinds of things picked once for a bench and carried along. */
  readonly thingsUsed: readonly ThingKind[];
  readonly steps: readonly Step[];
  readonly schools?: readonly PracticeOption[];
  /** The options by which this sheet was made from the shipped one. */
  readonly chosen?: PracticeChoices;
  /** The link of the class that this sheet's limits were worked out for. */
  readonly onLink?: { readonly id: string; readonly label: string };
}
