import type { Policy } from '../competence/index.ts';
import { DomainError } from '../domain-error.ts';
import { applyLink, type AttemptLink } from '../loss/index.ts';
import { type Entry, type LossReference, type Outcome, score } from '../scoring/index.ts';
import { applyPractice, type MethodSheet, type PracticeChoices } from '../sheet/index.ts';
import { movedSheet, type SheetMove } from './moved-sheet.ts';
import { type WhatIfResult, whatIfTally } from './what-if-tally.ts';

/** A signed attempt with what scoring needs of it. */
export interface ReplayedAttempt {
  readonly id: string;
  readonly traineeId: string;
  /** ISO 8601. */
  readonly startedAt: string;
  readonly versionId: string;
  readonly schools: PracticeChoices;
  readonly link: AttemptLink | null;
  readonly asVoid: boolean;
  readonly entries: readonly Entry[];
}
export interface ReplaySetting extends SheetMove {
  /** Null: the class's own. */
  readonly policy: Policy | null;
}
export interface Replay {
  /** In order of time; `references` are those that its readings point at. */
  readonly add: (attempt: ReplayedAttempt, references: readonly LossReference[]) => void;
  /** One result a setting. */
  readonly results: (nowMs: number) => WhatIfResult[];
}

/**
 * What a signed attempt comes to by a sheet. Input: the sheet as practice and link make it, the attempt, the references that its
 * readings point at, which marginal verdicts count. Errors: as `score`. Example: a stricter copy of its own sheet.
 */
export const scoreSigned = (
  sheet: MethodSheet,
  attempt: Pick<ReplayedAttempt, 'entries' | 'asVoid'>,
  references: readonly LossReference[],
  { marginalPassCounts, marginalFailCounts }: MarginalCounts,
): Outcome =>
  score(sheet, attempt.entries, {
    references,
    final: true,
    attemptVoid: attempt.asVoid,
    // It only tells the day of a calibration, which nothing that is moved here moves.
    timeZone: 'UTC',
    marginalPassCounts,
    marginalFailCounts,
  });
/** Which marginal verdicts count as passes. */
export type MarginalCounts = Pick<Policy, 'marginalPassCounts' | 'marginalFailCounts'>;

/**
 * Scores attempts anew, as they are and by each setting, by the same `score`, and tells who comes out otherwise. Input: the
 * sheets by version, the class's policy, the settings. Errors: `what_if.no_sheet`, as `movedSheet`.
 */
export function replayOf(
  sheets: ReadonlyMap<string, MethodSheet>,
  policy: Policy,
  settings: readonly ReplaySetting[],
): Replay {
  const tallies = settings.map((s) => whatIfTally(policy, s.policy ?? policy));
  const prepared = new Map<string, { base: MethodSheet; moved: readonly MethodSheet[] }>();
  const sheetsOf = (attempt: ReplayedAttempt) => {
    const { versionId, schools, link } = attempt;
    const key = `${versionId} ${JSON.stringify(schools)} ${link ? JSON.stringify(link) : ''}`;
    const known = prepared.get(key);
    if (known) return known;
    const sheet = sheets.get(versionId);
    if (!sheet) throw new DomainError('what_if.no_sheet', { versionId });
    const base = applyLink(applyPractice(sheet, schools), link);
    const made = { base, moved: settings.map((s) => movedSheet(base, s)) };
    prepared.set(key, made);
    return made;
  };
  return {
    add: (attempt, references) => {
      const { base, moved } = sheetsOf(attempt);
      const by = (sheet: MethodSheet, counts: Policy) => scoreSigned(sheet, attempt, references, counts);
      const before = by(base, policy);
      const startedMs = Date.parse(attempt.startedAt);
      settings.forEach((setting, i) => {
        const other = setting.policy ?? policy;
        const same =
          moved[i] === base &&
          other.marginalPassCounts === policy.marginalPassCounts &&
          other.marginalFailCounts === policy.marginalFailCounts;
        tallies[i]!.add({ ...attempt, startedMs }, before, same ? before : by(moved[i]!, other));
      });
    },
    results: (nowMs) => tallies.map((t) => t.result(nowMs)),
  };
}
