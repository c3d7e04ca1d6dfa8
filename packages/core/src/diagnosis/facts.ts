import type { MethodSheet } from '../sheet/index.ts';
import type { WorkKind } from './causes.ts';
import type { CriterionOutcome, Outcome } from '../scoring/index.ts';

/** What was scored on a piece, in the terms that the rules ask in. Names are the last part of a criterion's id. */
export interface Facts {
  readonly failed: (name: string) => CriterionOutcome | null;
  readonly passed: (name: string) => boolean;
  /** The failed criterion for which this fault was named. */
  readonly fault: (code: string) => CriterionOutcome | null;
  /** The criterion graded with this level. */
  readonly graded: (name: string, level: string) => CriterionOutcome | null;
  /** A measured criterion that failed over, or under, its band. */
  readonly outside: (name: string, side: 'over' | 'under') => CriterionOutcome | null;
  readonly losses: readonly CriterionOutcome[];
}

/** What a sheet works on, told by what it asks. */
export function workKindOf(sheet: MethodSheet): WorkKind {
  if (sheet.pieceKind === 'link') return 'link_test';
  const names = new Set(sheet.steps.flatMap((s) => s.criteria.map((c) => nameOf(c.id))));
  const asks = (...some: readonly string[]): boolean => some.some((name) => names.has(name));
  if (asks('joint')) return sheet.pieceKind === 'splice' ? 'fusion_splice' : 'fused_on';
  if (asks('finished', 'strokes-final', 'one-light-stroke')) return 'polished';
  if (asks('bow', 'bow-at-mark', 'latches', 'wedge-in', 'green')) return 'mechanical_splice';
  return 'preparation';
}

const nameOf = (criterionId: string): string => criterionId.slice(criterionId.lastIndexOf('/') + 1);
const hasFailed = (c: CriterionOutcome): boolean =>
  c.state === 'scored' && (c.verdict === 'fail' || c.verdict === 'marginal_fail');

export function factsOf(sheet: MethodSheet, outcome: Outcome): Facts {
  const byName = new Map(outcome.criteria.map((c) => [nameOf(c.criterionId), c]));
  const lossIds = new Set(
    sheet.steps.flatMap((s) => s.criteria.flatMap((c) => (c.kind === 'loss' ? [c.id] : []))),
  );
  const pick = (name: string, holds: (c: CriterionOutcome) => boolean): CriterionOutcome | null => {
    const found = byName.get(name);
    return found && holds(found) ? found : null;
  };
  return {
    failed: (name) => pick(name, hasFailed),
    passed: (name) => pick(name, (c) => c.state === 'scored' && !hasFailed(c)) !== null,
    fault: (code) => outcome.criteria.find((c) => c.faults.includes(code)) ?? null,
    graded: (name, level) =>
      pick(name, (c) => c.reasons.some((r) => r.code === 'grade.level' && r.params['id'] === level)),
    outside: (name, side) =>
      pick(name, (c) =>
        c.reasons.some((r) => r.code === `band.${side}` || r.code === `band.marginal_${side}`),
      ),
    losses: outcome.criteria.filter((c) => lossIds.has(c.criterionId) && c.state === 'scored'),
  };
}
