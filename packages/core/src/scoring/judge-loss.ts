import { dayIn } from '../days/index.ts';
import {
  afterReread,
  dbmFromMilliwatts,
  expandedUncertaintyDb,
  levelOfText,
  type LossTerms,
} from '../loss/index.ts';
import { type LossCriterion, type LossRules, parsePart } from '../sheet/index.ts';
import { decimalToNumber, parseDecimal, toBaseUnit, UNITS } from '../units/index.ts';
import type { CompiledSlot } from './compile-sheet.ts';
import { cordCheckState } from './cord-check.ts';
import { driftHolds, referenceLevels } from './reference-drift.ts';
import {
  isPass,
  type Entry,
  type EntryValue,
  type Flag,
  type InstrumentStamp,
  type JudgingContext,
  type LossPartOutcome,
  type LossReference,
  type Reason,
  type Verdict,
} from './types.ts';

type LossValue = EntryValue & { kind: 'loss' };

export interface PartJudgement {
  readonly outcome: LossPartOutcome;
  readonly flags: readonly Flag[];
}

/** Binary dust forgiven in a computed value; dB. */
const DUST_DB = 1e-6;
const HOUR_MS = 3_600_000;

/** What a meter still shows as a level where the rules do not say; dBm. House, from memory: meters reach -60 to -80 dBm. */
export const METER_FLOOR_DBM = -70;

/**
 * Loss in dB of a reading against its reference: reference (dBm) - reading (dBm); a typed dB is a loss,
 * positive, unless the instrument shows the negative. Null when there is no light: said so, zero power, or a level at or
 * under the meter's floor (dBm). Errors: those of `levelOfText` for the reference, of `toBaseUnit` for the reading.
 * Example: -6 dBm against a reference of -5 dBm is 1 dB.
 */
export function lossDbOf(
  value: LossValue,
  reference: LossReference,
  floorDbm = METER_FLOOR_DBM,
): number | null {
  if (value.noLight) return null;
  const number = decimalToNumber(toBaseUnit(value.text ?? '', value.unit));
  const { quantity } = UNITS[value.unit];
  if (quantity === 'loss') return reference.showsNegative && number !== 0 ? -number : number;
  if (quantity === 'power' && number <= 0) return null;
  const level = quantity === 'power' ? dbmFromMilliwatts(number) : number;
  return level <= floorDbm ? null : levelOfText(reference.valueDbm) - level;
}

/**
 * Judges one reading of a loss criterion (one fiber, wavelength and direction).
 * Void: said so by the instructor or by its reference; a reference or a reading of another wavelength, another method,
 * too old, drifted, of another leg of a breakout cord, or of levels that are no numbers; a test cord whose check had run out or failed;
 * a loss under the negative tolerance. No light fails without a number.
 * Otherwise against limit and U as `judgeBand` does, with 1e-6 dB of dust forgiven; a loss equal to the
 * limit passes. Flags: gain within uncertainty, suspect (less than the fiber alone), slip confirmed,
 * poor for good work (passes, over the expected loss by more than U).
 */
export function judgeLoss(
  criterion: LossCriterion,
  slot: CompiledSlot,
  entry: Entry,
  context: JudgingContext,
): PartJudgement {
  const at = slot.params;
  const value = entry.value as LossValue | null;
  const reference = value ? context.references.find((r) => r.id === value.referenceId) : undefined;
  const terms = termsAfter(reference, slot.terms!, criterion.rules);
  const base = {
    part: slot.part,
    entryId: entry.id,
    limitDb: terms.limitDb,
    expectedDb: terms.expectedDb,
    uncertaintyDb: terms.uncertaintyDb,
    referenceId: reference?.id ?? null,
  };
  const give = (verdict: Verdict, lossDb: number | null, reason: Reason | null): LossPartOutcome => ({
    ...base,
    verdict,
    lossDb,
    reason,
  });
  const voidReason = whyVoid(criterion, slot, entry, reference) ?? whyCordVoid(entry, at, context.timeZone);
  if (voidReason) return { outcome: give('void', null, voidReason), flags: [] };
  const lossDb = lossDbOf(value!, reference!, criterion.rules.meterFloorDbm?.dbm);
  if (lossDb === null) {
    return { outcome: give('fail', null, { code: 'loss.no_light', params: at }), flags: [] };
  }
  const negative = voidIfNegative(lossDb, at, criterion.rules);
  if (negative) return { outcome: give('void', null, negative), flags: [] };
  const [verdict, reason] = againstLimit(lossDb, terms, at);
  return {
    outcome: give(verdict, lossDb, reason),
    flags: flagsOf(
      lossDb,
      verdict,
      value!,
      terms,
      calibrationOverdue(value!.instrument, entry.at, context.timeZone),
    ),
  };
}

function whyVoid(
  criterion: LossCriterion,
  slot: CompiledSlot,
  entry: Entry,
  reference: LossReference | undefined,
): Reason | null {
  const at = slot.params;
  const said = (why: string): Reason => ({ code: 'void.reading', params: { ...at, why } });
  if (entry.kind === 'void') return said(entry.voidReason ?? 'setup_broken');
  if (!reference) return said('setup_broken');
  if (reference.voidReason) return said(reference.voidReason);
  if (reference.wavelengthNm !== slot.terms!.wavelengthNm) return said('wrong_wavelength');
  const stamp = (entry.value as LossValue).instrument;
  if (stamp && stamp.wavelengthNm !== null && stamp.wavelengthNm !== slot.terms!.wavelengthNm) {
    return said('wrong_wavelength');
  }
  if (reference.method !== criterion.link.referenceMethod) return said('setup_broken');
  const { fiber } = parsePart(slot.part);
  const leg = reference.leg ?? null;
  if (leg !== null && fiber !== null && leg !== fiber) {
    return { code: 'void.reference_leg', params: { ...at, leg } };
  }
  const readAt = Date.parse(entry.at) + (entry.clockOffsetMs ?? 0);
  const hours = (readAt - Date.parse(reference.setAt)) / HOUR_MS;
  if (hours > criterion.rules.referenceAgeLimitHours) {
    const most = criterion.rules.referenceAgeLimitHours;
    return { code: 'void.reference_old', params: { ...at, hours: round(hours, 1), most } };
  }
  const levels = referenceLevels(reference);
  if (levels === null)
    return { code: 'void.reference_unreadable', params: { ...at, text: reference.valueDbm } };
  const { driftDb } = levels;
  const most = criterion.rules.driftLimitDb.db;
  if (driftDb !== null && !driftHolds(driftDb, most)) {
    return { code: 'void.reference_drift', params: { ...at, drift: round(driftDb, 3), most } };
  }
  return null;
}

/** With the reference read again, the uncertainty carries what it moved by in place of what it may move by. */
function termsAfter(reference: LossReference | undefined, terms: LossTerms, rules: LossRules): LossTerms {
  const driftDb = (reference && referenceLevels(reference)?.driftDb) ?? null;
  if (driftDb === null) return terms;
  const parts = afterReread(rules.uncertainty, driftDb);
  return { ...terms, uncertaintyDb: expandedUncertaintyDb(parts) };
}

/** A test cord that was due again, or that had failed its own check, makes what was read with it void. */
function whyCordVoid(entry: Entry, at: Place, timeZone: string): Reason | null {
  const cord = (entry.value as LossValue).cord;
  if (cord === undefined) return null;
  const { label, dueOn, checkedOn } = cord;
  switch (cordCheckState(cord, dayIn(timeZone, entry.at))) {
    case 'failed': {
      const loss = decimalToNumber(parseDecimal(cord.lossDb));
      const limit = decimalToNumber(parseDecimal(cord.limitDb));
      return { code: 'void.cord_failed', params: { ...at, cord: label, loss, limit, day: checkedOn } };
    }
    case 'overdue':
      return { code: 'void.cord_overdue', params: { ...at, cord: label, day: dueOn } };
    case 'good':
      return null;
  }
}

type Place = CompiledSlot['params'];

function voidIfNegative(lossDb: number, at: Place, rules: LossRules): Reason | null {
  const least = rules.negativeToleranceDb.db;
  if (lossDb >= least - DUST_DB) return null;
  return { code: 'void.negative_loss', params: { ...at, loss: round(lossDb, 3), least } };
}

function againstLimit(lossDb: number, terms: LossTerms, at: Place): [Verdict, Reason | null] {
  const { limitDb, uncertaintyDb } = terms;
  const params = {
    ...at,
    loss: round(lossDb, 3),
    limit: round(limitDb, 3),
    uncertainty: round(uncertaintyDb, 3),
  };
  if (lossDb <= limitDb - uncertaintyDb + DUST_DB) return ['pass', null];
  if (lossDb <= limitDb + DUST_DB) return ['marginal_pass', { code: 'loss.marginal', params }];
  if (lossDb <= limitDb + uncertaintyDb + DUST_DB) {
    return ['marginal_fail', { code: 'loss.marginal_over', params }];
  }
  return ['fail', { code: 'loss.over', params }];
}

function flagsOf(
  lossDb: number,
  verdict: Verdict,
  value: LossValue,
  terms: LossTerms,
  overdue: boolean,
): Flag[] {
  const flags: Flag[] = [];
  if (overdue) flags.push('calibration_overdue');
  if (lossDb < 0) flags.push('gain_within_uncertainty');
  else if (lossDb < terms.floorDb - DUST_DB) flags.push('suspect');
  if (value.slipConfirmed) flags.push('decimal_slip_confirmed');
  if (isPass(verdict) && lossDb > terms.expectedDb + terms.uncertaintyDb + DUST_DB)
    flags.push('poor_for_good_work');
  return flags;
}

/**
 * A bend in a single-mode link: the loss at a wavelength exceeds that at the next shorter tested one by the
 * step or more, of the same fiber in the same direction. Input: judged parts, in any order.
 */
export function bendSuspected(parts: readonly LossPartOutcome[], stepDb: number): boolean {
  const tested = parts
    .filter((p) => p.lossDb !== null)
    .map((p) => ({ ...parsePart(p.part), db: p.lossDb! }))
    .sort((a, b) => a.wavelengthNm! - b.wavelengthNm!);
  return tested.some((p, i) => {
    const before = tested.slice(0, i).filter((x) => x.fiber === p.fiber && x.direction === p.direction);
    const shorter = before[before.length - 1];
    return shorter !== undefined && p.db - shorter.db >= stepDb - DUST_DB;
  });
}

/**
 * Whether a typed loss looks like a slip of the decimal sign: it fails, and a tenth or ten times of it
 * passes. Example: 2.0 dB against a limit of 0.752 dB, where 0.2 passes.
 */
export function lossSlip(
  value: LossValue,
  reference: LossReference,
  terms: LossTerms,
): 'tenth' | 'ten_times' | null {
  if (UNITS[value.unit].quantity !== 'loss') return null;
  const loss = lossDbOf(value, reference);
  const inside = (db: number): boolean => db >= 0 && db <= terms.limitDb + DUST_DB;
  if (loss === null || inside(loss)) return null;
  if (inside(loss / 10)) return 'tenth';
  return inside(loss * 10) ? 'ten_times' : null;
}

/** Whether an instrument's calibration had run out on the day of a reading in the class's time zone. */
export function calibrationOverdue(
  stamp: InstrumentStamp | undefined,
  at: string,
  timeZone: string,
): boolean {
  const dueOn = stamp?.calibrationDueOn ?? null;
  return dueOn !== null && dueOn < dayIn(timeZone, at);
}

/** To `digits` decimals, for showing only. */
function round(value: number, digits: number): number {
  const factor = 10 ** digits;
  return Math.round(value * factor) / factor;
}
