import type { ReferenceMethod, Skill } from '../sheet/index.ts';
import type { CleaveClass } from '../side-view/index.ts';
import type { Unit } from '../units/index.ts';

/** Worst first: the order used inside one criterion with repeated readings. */
export const VERDICTS = ['fail', 'marginal_fail', 'void', 'incomplete', 'marginal_pass', 'pass'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** Accepted, also where it hangs on the uncertainty of its measurement. */
export const isPass = (verdict: Verdict): boolean => verdict === 'pass' || verdict === 'marginal_pass';
/** Not accepted, also where it hangs on the uncertainty of its measurement. */
export const isFail = (verdict: Verdict): boolean => verdict === 'fail' || verdict === 'marginal_fail';
/** Hangs on the uncertainty of its measurement: nobody can tell by this one which side the true value lies on. */
export const isMarginal = (verdict: Verdict): boolean =>
  verdict === 'marginal_pass' || verdict === 'marginal_fail';

export const CAPACITIES = ['instructor', 'witness', 'trainee'] as const;
export type Capacity = (typeof CAPACITIES)[number];

export const ENTRY_KINDS = [
  'value',
  'not_seen',
  'void',
  'note',
  'retract',
  'charge',
  'dismiss',
  'hand',
  'timer',
  'stop',
] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

export const ENTRY_SOURCES = ['typed', 'timer', 'instrument', 'picture', 'computed'] as const;
export type EntrySource = (typeof ENTRY_SOURCES)[number];

export const READING_VOID_REASONS = [
  'wrong_wavelength',
  'wrong_core_size',
  'launch_cord_taken_off',
  'setup_broken',
] as const;
export type ReadingVoidReason = (typeof READING_VOID_REASONS)[number];

/** What an instructor stops a piece for. */
export const HAZARDS = ['eyes', 'shards', 'light', 'arc_heat', 'chemistry', 'food', 'other'] as const;
export type Hazard = (typeof HAZARDS)[number];

/** What the light of a loss test came from. */
export const LIGHT_SOURCES = ['laser', 'led', 'transceiver'] as const;
export type LightSource = (typeof LIGHT_SOURCES)[number];

/** The last check of the test cord that a reading was taken with: kept beside the value, as it stood then. */
export interface CordStamp {
  /** The cord as one of the class's things. */
  readonly thingId: string;
  readonly label: string;
  /** Days in the class's zone, `2026-03-09`; the second is the last on which the check still holds. */
  readonly checkedOn: string;
  readonly dueOn: string;
  /** Its own loss and what it may lose, decimal text in dB. */
  readonly lossDb: string;
  readonly limitDb: string;
}

export const CALLS = ['pass', 'fail'] as const;
export type Call = (typeof CALLS)[number];

/** Where a value came from when an instrument gave it: kept beside the value, as the server stamped it. */
export interface InstrumentStamp {
  /** The instrument as one of the class's things. */
  readonly thingId: string;
  /** What it called itself: maker, model, serial, version. */
  readonly identity: string;
  readonly wavelengthNm: number | null;
  readonly calibratedOn: string | null;
  readonly calibrationDueOn: string | null;
  /** Instant of the server, ISO 8601 in UTC. */
  readonly at: string;
  readonly seq: number;
  /** The reading as the server put it in words, and the server's proof that it gave it out. */
  readonly shows?: string;
  readonly token?: string;
}

/** The kept picture that a value was measured in. */
export interface PictureStamp {
  readonly id: string;
  /** Expanded uncertainty (k = 2) of the value in the criterion's unit, as decimal text: it is judged with this. */
  readonly expanded: string;
  /** What the end face looks like, where the picture shows one. */
  readonly face?: CleaveClass;
}

/** The kept picture that a joint was graded by. */
export interface JointStamp {
  readonly id: string;
  /** Loss of the joint by its picture at 1310 nm and its expanded uncertainty (k = 2), dB as decimal text. */
  readonly lossDb: string;
  readonly expanded: string;
}

/** What was seen, typed or timed; kept as entered. */
export type EntryValue =
  | { readonly kind: 'check'; readonly passed: boolean; readonly faults?: readonly string[] }
  | {
      readonly kind: 'measure';
      readonly text: string;
      readonly unit: Unit;
      readonly slipConfirmed?: boolean;
      readonly instrument?: InstrumentStamp;
      readonly picture?: PictureStamp;
    }
  | { readonly kind: 'count'; readonly count: number }
  | {
      readonly kind: 'timed';
      /** Typed seconds or mm:ss; absent when both instants are there. */
      readonly text?: string;
      readonly startedAt?: string;
      readonly stoppedAt?: string;
    }
  | { readonly kind: 'grade'; readonly level: string; readonly picture?: JointStamp }
  /** The far port that lit for each near one: 0 no light, null not walked yet. A far port lights once. */
  | { readonly kind: 'map'; readonly far: readonly (number | null)[] }
  /** What the trainee said; the reference where the sheet has no criterion for it. */
  | { readonly kind: 'call'; readonly said: Call; readonly reference?: Call }
  /** Someone at the bench calls for the instructor; taken back when it is answered. */
  | { readonly kind: 'hand' }
  /** A timer that runs from here; taken back when it is stopped. Instant of the device that started it. */
  | { readonly kind: 'timer'; readonly startedAt: string }
  /** The instructor ends the piece here, for somebody's safety. */
  | { readonly kind: 'stop'; readonly hazard: Hazard }
  /** A suggested cause that the instructor found wrong. */
  | { readonly kind: 'dismiss'; readonly symptom: string; readonly cause: string }
  /** The instructor's choice to charge a failure to the skill that caused it. */
  | { readonly kind: 'charge'; readonly skill: Skill; readonly cause: string }
  | {
      readonly kind: 'loss';
      /** Absent for no light. */
      readonly text?: string;
      readonly unit: Unit;
      readonly noLight?: boolean;
      readonly referenceId: string;
      readonly slipConfirmed?: boolean;
      readonly instrument?: InstrumentStamp;
      readonly cord?: CordStamp;
    };

export interface Entry {
  readonly id: string;
  readonly kind: EntryKind;
  /** Absent only for a note on the whole attempt. */
  readonly criterionId: string | null;
  /** Which of the repeated readings, such as `1310`; empty where the criterion has one. */
  readonly part: string;
  readonly value: EntryValue | null;
  readonly voidReason: ReadingVoidReason | null;
  readonly note: string | null;
  readonly authorId: string;
  readonly capacity: Capacity;
  readonly deviceId: string;
  readonly source: EntrySource;
  /** Instant on the author's device, ISO 8601 in UTC. */
  readonly at: string;
  /** How far the server's clock was ahead of that device, ms; 0 where it is not known. */
  readonly clockOffsetMs?: number;
  /** The ids its author's device had seen for the same criterion and part. */
  readonly supersedes: readonly string[];
  /** The retracted entry; for retractions only. */
  readonly targetId: string | null;
}

/** The zero of a loss test. */
export interface LossReference {
  readonly id: string;
  readonly method: ReferenceMethod;
  readonly wavelengthNm: number;
  /** Decimal text in dBm. */
  readonly valueDbm: string;
  readonly setAt: string;
  /** The instrument shows a loss as a negative number. */
  readonly showsNegative: boolean;
  /** Read again afterwards, decimal text in dBm. */
  readonly rereadDbm: string | null;
  readonly voidReason: ReadingVoidReason | null;
  /** The fiber whose leg of a breakout cord it was set through; absent where it serves every fiber. */
  readonly leg?: number | null;
  /** Absent where nobody said. */
  readonly light?: LightSource | null;
}

export interface ScoringContext {
  readonly references: readonly LossReference[];
  /** True when the attempt is being signed: nothing that is open can still come. */
  readonly final: boolean;
  /** Settings of the class; the defaults are `DEFAULT_SCORING`. */
  readonly marginalPassCounts: boolean;
  readonly marginalFailCounts: boolean;
  /** Set when the instructor voids the whole attempt. */
  readonly attemptVoid: boolean;
  /** IANA zone of the class: whether a calibration had run out is asked of the day there. */
  readonly timeZone: string;
}

/** What single criteria are judged by. */
export type JudgingContext = Pick<ScoringContext, 'references' | 'timeZone'>;

export interface Reason {
  readonly code: ReasonCode;
  readonly params: Readonly<Record<string, string | number>>;
}

export const REASON_CODES = [
  'check.failed',
  'band.over',
  'band.under',
  'band.shorter_than',
  'band.marginal',
  'band.marginal_over',
  'band.marginal_under',
  'grade.level',
  'loss.over',
  'loss.marginal',
  'loss.marginal_over',
  'loss.no_light',
  'loss.part_missing',
  'parts.also_failed',
  'parts.missing',
  'parts.void',
  'map.open',
  'map.wrong_type',
  'map.crossed_pair',
  'map.crossed_fibers',
  'map.no_light',
  'map.parts',
  'map.rows_exchanged',
  'map.row_dark',
  'call.bad_called_good',
  'call.good_called_bad',
  'call.reference_open',
  'void.follows',
  'void.reading',
  'void.negative_loss',
  'void.reference_drift',
  'void.reference_old',
  'void.reference_unreadable',
  'void.reference_leg',
  'void.cord_overdue',
  'void.cord_failed',
  'void.not_conformant_pass',
  'void.not_conformant_fail',
  'open.not_scored',
  'open.not_seen',
  'open.conflict',
  'open.proposed',
  'group.stop_breach',
  'group.stopped',
  'group.critical_failed',
  'group.pass_mark_missed',
  'group.test_void',
  'group.required_open',
  'group.nothing_scored',
  'group.hangs_on_marginal',
  'group.attempt_void',
] as const;
export type ReasonCode = (typeof REASON_CODES)[number];

export const FLAGS = [
  'not_conformant',
  'suspect',
  'gain_within_uncertainty',
  'decimal_slip_confirmed',
  'bend_suspected',
  'poor_for_good_work',
  'calibration_overdue',
] as const;
export type Flag = (typeof FLAGS)[number];

/** One judged reading of a criterion that has several. */
interface PartBase {
  readonly part: string;
  readonly verdict: Verdict;
  readonly reason: Reason | null;
  /** The entry that stands for it; null while there is none, or more than one. */
  readonly entryId: string | null;
}
export interface LossPartOutcome extends PartBase {
  readonly lossDb: number | null;
  readonly limitDb: number;
  readonly expectedDb: number;
  readonly uncertaintyDb: number;
  readonly referenceId: string | null;
}
export interface ReadingPartOutcome extends PartBase {
  /** In the base unit of the criterion's quantity. */
  readonly value: number | null;
}
export type PartOutcome = LossPartOutcome | ReadingPartOutcome;

/** Whether a part is a loss reading in dB; the others are readings of a grid in a unit of their own. */
export const isLossPart = (part: PartOutcome): part is LossPartOutcome => 'lossDb' in part;
/** The number of a part: its loss in dB or its value in the base unit. */
export const partValue = (part: PartOutcome): number | null => (isLossPart(part) ? part.lossDb : part.value);

export type CriterionState = 'scored' | 'open' | 'not_seen' | 'void' | 'conflict';

export interface CriterionOutcome {
  readonly criterionId: string;
  readonly stepId: string;
  /** The skill that it counts in: its own, or the one that its failure was charged to. */
  readonly skill: Skill;
  /** Its own skill, when its failure was charged to another one. */
  readonly chargedFrom: Skill | null;
  readonly state: CriterionState;
  readonly verdict: Verdict;
  readonly points: number;
  readonly earned: number;
  readonly required: boolean;
  readonly critical: boolean;
  readonly stop: boolean;
  /** Base-unit value of a measurement, count or time. */
  readonly value: number | null;
  readonly reasons: readonly Reason[];
  readonly flags: readonly Flag[];
  readonly parts: readonly PartOutcome[];
  /** Entries that stand for it; two or more in conflict. */
  readonly entryIds: readonly string[];
  readonly faults: readonly string[];
}

export interface Points {
  readonly earned: number;
  readonly possible: number;
  /** Points that are still to be scored. */
  readonly open: number;
}

export interface GroupOutcome {
  readonly verdict: Verdict;
  readonly points: Points;
  /** Share of the criteria that have a result, 0 to 1. */
  readonly share: number;
  readonly reasons: readonly Reason[];
}

export interface StepOutcome extends GroupOutcome {
  readonly stepId: string;
  readonly skill: Skill;
}

export interface Outcome extends GroupOutcome {
  readonly scoringVersion: number;
  readonly skills: Readonly<Partial<Record<Skill, GroupOutcome>>>;
  readonly steps: readonly StepOutcome[];
  readonly criteria: readonly CriterionOutcome[];
  /** Required criteria without a result. */
  readonly missing: readonly string[];
  readonly conflicts: readonly string[];
  /** Whether the piece was ended for safety: by a stop, or by a breach of a criterion that stops. */
  readonly stopped: boolean;
  /** Stops that stand; absent in outcomes of scoring versions before 5. */
  readonly stops?: readonly Stop[];
}

/** A stop of the whole piece, by the criterion that was at hand. */
export interface Stop {
  readonly entryId: string;
  readonly hazard: Hazard;
  readonly criterionId: string;
  readonly stepId: string;
  readonly skill: Skill;
  readonly note: string | null;
}
