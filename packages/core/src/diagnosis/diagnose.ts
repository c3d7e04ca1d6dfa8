import type { Outcome } from '../scoring/index.ts';
import type { MethodSheet } from '../sheet/index.ts';
import { type Facts, factsOf, workKindOf } from './facts.ts';
import type { Cause, Symptom } from './causes.ts';
import { type CauseRule, RULES } from './rules.ts';

export interface LikelyCause {
  readonly cause: Cause;
  /** Criteria of this piece that speak for it. */
  readonly evidence: readonly string[];
  /** The step to look at: that of the first evidence. */
  readonly stepId: string | null;
}

export interface Diagnosis {
  readonly symptom: Symptom;
  /** Criteria in which the symptom was seen. */
  readonly seen: readonly string[];
  /** Ranked: with evidence first, then in the trade's order; those that this piece speaks against are left out. */
  readonly causes: readonly LikelyCause[];
}

/**
 * What likely went wrong on a piece: every symptom that its outcome shows and that its kind of work can have, with the causes
 * that practitioners of that kind think of. A cause with evidence on this piece comes before one without; more evidence first; then the order of the
 * trade. A cause without evidence is left out when what would show it was scored and passed. A symptom all of whose
 * causes are ruled out stays, with none. Diagnosis proposes; only the instructor decides. Source: common practice.
 * Example: a high loss with a failed cleave angle names the cleave first, with the step where the angle was read.
 */
export function diagnose(sheet: MethodSheet, outcome: Outcome): readonly Diagnosis[] {
  const facts = factsOf(sheet, outcome);
  const kind = workKindOf(sheet);
  return RULES.flatMap((rule) => {
    const causes = rule.causes[kind];
    if (!causes) return [];
    const seen = rule.seen(facts).map((c) => c.criterionId);
    if (seen.length === 0) return [];
    const ranked = causes
      .map((cause, order) => ({ ...judge(cause, facts), order }))
      .filter((c) => c.evidence.length > 0 || !c.cleared)
      .sort((a, b) => b.evidence.length - a.evidence.length || a.order - b.order);
    return [
      {
        symptom: rule.symptom,
        seen,
        causes: ranked.map(({ cause, evidence, stepId }) => ({ cause, evidence, stepId })),
      },
    ];
  });
}

function judge(rule: CauseRule, facts: Facts): LikelyCause & { readonly cleared: boolean } {
  const found = rule.signs.flatMap((sign) => sign(facts) ?? []);
  return {
    cause: rule.cause,
    evidence: [...new Set(found.map((c) => c.criterionId))],
    stepId: found[0]?.stepId ?? null,
    cleared: (rule.onlyWhenSeen ?? false) || rule.clearedBy.some((name) => facts.passed(name)),
  };
}
