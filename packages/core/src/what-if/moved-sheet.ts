import { DomainError } from '../domain-error.ts';
import type { Band, Criterion, MethodSheet, Source } from '../sheet/index.ts';

export interface MovedLimit {
  readonly criterionId: string;
  /** In the criterion's unit, s for times, dB for losses; null leaves that end as it is. */
  readonly min: number | null;
  readonly max: number | null;
}
export interface SheetMove {
  /** Percent of the possible points; null leaves it as it is. */
  readonly passMark: number | null;
  readonly limit: MovedLimit | null;
}

const ASKED: Source = { kind: 'house', fromMemory: false, words: 'asked as a “what if”' };

/** A criterion whose verdict hangs on a limit that can be moved. */
export const canMove = (criterion: Criterion): boolean => 'band' in criterion || criterion.kind === 'loss';

/**
 * A sheet with its pass mark or one of its limits moved; the sheet itself where nothing of it moves. Input: pass mark from 0
 * to 100 %, finite limits. Errors: `what_if.bad_pass_mark`, `what_if.bad_limit` (not finite, the lower above the upper, or
 * under 0 for a loss). Example: the loss limit 0.75 dB moved to 0.5 dB.
 */
export function movedSheet(sheet: MethodSheet, move: SheetMove): MethodSheet {
  const { passMark, limit } = move;
  if (passMark !== null && !(passMark >= 0 && passMark <= 100)) {
    throw new DomainError('what_if.bad_pass_mark', { passMark });
  }
  const moves = limit !== null && sheet.steps.some((s) => s.criteria.some((c) => c.id === limit.criterionId));
  const passMarkPercent = passMark ?? sheet.passMarkPercent;
  if (!moves && passMarkPercent === sheet.passMarkPercent) return sheet;
  return {
    ...sheet,
    passMarkPercent,
    steps: moves
      ? sheet.steps.map((step) => ({ ...step, criteria: step.criteria.map((c) => movedCriterion(c, limit)) }))
      : sheet.steps,
  };
}

function movedCriterion(criterion: Criterion, limit: MovedLimit): Criterion {
  if (criterion.id !== limit.criterionId) return criterion;
  if (criterion.kind === 'loss') {
    if (limit.max === null) return criterion;
    if (!(limit.max >= 0 && limit.max < Infinity))
      throw new DomainError('what_if.bad_limit', { max: limit.max });
    return { ...criterion, rules: { ...criterion.rules, limitDb: { db: limit.max, source: ASKED } } };
  }
  return 'band' in criterion ? { ...criterion, band: movedBand(criterion.band, limit) } : criterion;
}

function movedBand(band: Band, { min, max }: MovedLimit): Band {
  for (const end of [min, max]) {
    if (end !== null && !Number.isFinite(end))
      throw new DomainError('what_if.bad_limit', { end: String(end) });
  }
  const lower = min ?? (band.lower ? Number(band.lower.value) : -Infinity);
  const upper = max ?? (band.upper ? Number(band.upper.value) : Infinity);
  if (lower > upper) throw new DomainError('what_if.bad_limit', { min: lower, max: upper });
  return {
    ...band,
    ...(min === null ? {} : { lower: { value: decimalText(min), source: ASKED } }),
    ...(max === null ? {} : { upper: { value: decimalText(max), source: ASKED } }),
  };
}

/** A number as decimal text without an exponent, to a billionth. */
const decimalText = (value: number): string =>
  value.toFixed(9).replace(/0+$/, '').replace(/\.$/, '').replace(/^-0$/, '0');
