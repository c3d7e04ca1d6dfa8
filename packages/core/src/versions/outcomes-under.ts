import { DomainError } from '../domain-error.ts';
import { applyLink } from '../loss/index.ts';
import { isPass, type LossReference, type Verdict } from '../scoring/index.ts';
import { applyPractice, type MethodSheet } from '../sheet/index.ts';
import { type MarginalCounts, type ReplayedAttempt, scoreSigned } from '../what-if/index.ts';
import { copySheet } from './copy-sheet.ts';

/** A signed attempt with the sheet of its own version and the references that its readings point at. */
export interface SignedAttempt {
  readonly attempt: ReplayedAttempt;
  readonly sheet: MethodSheet;
  readonly references: readonly LossReference[];
}

/** What signed attempts would have been under another version. */
export interface OutcomesUnder {
  readonly attempts: number;
  /** Those that the other version cannot score: their values do not fit it. */
  readonly notScored: number;
  /** Those that passed and would not, and those that did not and would. */
  readonly newlyFailed: number;
  readonly newlyPassed: number;
  readonly changes: readonly { readonly id: string; readonly before: Verdict; readonly after: Verdict }[];
}

/**
 * Scores signed attempts by their own version and by another one, and tells which come out otherwise. Input: attempts of one
 * method, the other version's sheet (of a copied method too: its criteria are taken for those of the same name), which
 * marginal verdicts count. What the other version asks and nobody scored makes an attempt incomplete. Example: a limit of
 * 12.5 mm for 13 turns a piece of 12.8 mm from pass to fail.
 */
export function outcomesUnder(
  signed: readonly SignedAttempt[],
  other: MethodSheet,
  counts: MarginalCounts,
): OutcomesUnder {
  const copies = new Map<string, MethodSheet>();
  const underName = (of: MethodSheet): MethodSheet => {
    if (of.id === other.id) return other;
    const known = copies.get(of.id) ?? copySheet(other, of.id, other.title);
    copies.set(of.id, known);
    return known;
  };
  const changes: { id: string; before: Verdict; after: Verdict }[] = [];
  let notScored = 0;
  for (const { attempt, sheet, references } of signed) {
    const by = (of: MethodSheet): Verdict =>
      scoreSigned(applyLink(applyPractice(of, attempt.schools), attempt.link), attempt, references, counts)
        .verdict;
    try {
      const before = by(sheet);
      const after = by(underName(sheet));
      if (before !== after) changes.push({ id: attempt.id, before, after });
    } catch (error) {
      if (!(error instanceof DomainError)) throw error;
      notScored += 1;
    }
  }
  return {
    attempts: signed.length,
    notScored,
    newlyFailed: changes.filter((c) => isPass(c.before) && !isPass(c.after)).length,
    newlyPassed: changes.filter((c) => !isPass(c.before) && isPass(c.after)).length,
    changes,
  };
}
