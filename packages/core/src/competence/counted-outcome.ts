import { type CriterionOutcome, isLossPart, type Outcome } from '../scoring/index.ts';
import {
  type Criterion,
  type Direction,
  type FiberClass,
  type MethodSheet,
  parsePart,
  type ReferenceMethod,
  type Skill,
  skillsOf,
} from '../sheet/index.ts';
import { type OutcomeMark, outcomeMark, skillMark } from './outcome-marks.ts';

/** A criterion of a signed attempt as it is counted; `lost` in points. */
export interface CountedCriterion {
  readonly criterionId: string;
  readonly skill: Skill;
  readonly mark: OutcomeMark;
  readonly points: number;
  readonly lost: number;
  readonly value: number | null;
  readonly faults: readonly string[];
}

/** One loss reading of a signed attempt as it is counted: dB, and nm. */
export interface CountedLoss {
  readonly criterionId: string;
  readonly wavelengthNm: number;
  readonly direction: Direction | null;
  readonly fiber: number | null;
  readonly referenceMethod: ReferenceMethod;
  readonly fiberClass: FiberClass;
  readonly referenceId: string | null;
  /** Null where the reading is void: it leaves every sample, whatever number it shows. */
  readonly lossDb: number | null;
  readonly limitDb: number;
  readonly expectedDb: number;
  readonly mark: OutcomeMark;
}

export interface CountedOutcome {
  readonly whole: OutcomeMark;
  readonly skills: readonly { readonly skill: Skill; readonly mark: OutcomeMark }[];
  readonly criteria: readonly CountedCriterion[];
  readonly losses: readonly CountedLoss[];
}

/**
 * A signed outcome laid out for counting. Of a void attempt only its marks count, neither criteria nor losses; a criterion
 * counts when it was scored or is void, and a void one loses no points. A reading that is still open is none. Input: the sheet
 * that the outcome was scored by. Example: a void reading of
 * 0.3 dB is a row without a loss, with the mark V.
 */
export function countedOutcome(sheet: MethodSheet, outcome: Outcome): CountedOutcome {
  const byId = new Map(sheet.steps.flatMap((s) => s.criteria.map((c) => [c.id, c] as const)));
  const counted =
    outcome.verdict === 'void'
      ? []
      : outcome.criteria.filter((c) => c.state === 'scored' || c.state === 'void');
  return {
    whole: outcomeMark(outcome.verdict, outcome.stopped),
    skills: skillsOf(outcome.skills).flatMap((skill) => {
      const mark = skillMark(outcome, skill);
      return mark === null ? [] : [{ skill, mark }];
    }),
    criteria: counted.map((c) => ({
      criterionId: c.criterionId,
      skill: c.skill,
      mark: outcomeMark(c.verdict, c.stop),
      points: c.points,
      lost: c.state === 'scored' ? c.points - c.earned : 0,
      value: c.value,
      faults: c.faults,
    })),
    losses: counted.flatMap((c) => countedLosses(c, byId.get(c.criterionId))),
  };
}

function countedLosses(outcome: CriterionOutcome, criterion: Criterion | undefined): CountedLoss[] {
  if (criterion?.kind !== 'loss') return [];
  return outcome.parts
    .filter(isLossPart)
    .filter((part) => part.verdict !== 'incomplete')
    .map((part) => {
      const { fiber, wavelengthNm, direction } = parsePart(part.part);
      return {
        criterionId: outcome.criterionId,
        wavelengthNm: wavelengthNm!,
        direction: direction ?? null,
        fiber: fiber ?? null,
        referenceMethod: criterion.link.referenceMethod,
        fiberClass: criterion.link.fiberClass,
        referenceId: part.referenceId,
        lossDb: part.verdict === 'void' ? null : part.lossDb,
        limitDb: part.limitDb,
        expectedDb: part.expectedDb,
        mark: outcomeMark(part.verdict, false),
      };
    });
}

/** An attempt that was open for longer was left lying: its time says nothing. House. */
const LONGEST_MINUTES = 240;

/**
 * Minutes from the start of an attempt to its last entry; null where it has none, where that lies before the start, or where it
 * was left open for more than four hours. Instants in ms. Example: entries after 5 and 12 minutes give 12.
 */
export function workMinutes(startedMs: number, entriesMs: readonly number[]): number | null {
  if (entriesMs.length === 0) return null;
  const minutes = (Math.max(...entriesMs) - startedMs) / 60_000;
  return minutes >= 0 && minutes <= LONGEST_MINUTES ? minutes : null;
}
