import { type MethodSheet, type Skill, skillsInOrder } from '../sheet/index.ts';
import { type CompiledSheet, compileSheet } from './compile-sheet.ts';
import { judgeCriterion } from './judge-criterion.ts';
import { type GroupRules, judgeGroup } from './judge-group.ts';
import { resolveEntries } from './resolve-entries.ts';
import type {
  CriterionOutcome,
  Entry,
  GroupOutcome,
  JudgingContext,
  Outcome,
  Reason,
  ScoringContext,
  Stop,
} from './types.ts';

/** Stored with every signed outcome; raised when a rule of scoring changes. */
export const SCORING_VERSION = 5;

export const DEFAULT_SCORING: ScoringContext = {
  references: [],
  final: false,
  marginalPassCounts: true,
  marginalFailCounts: false,
  attemptVoid: false,
  timeZone: 'UTC',
};

/**
 * The one scoring function: what a method version makes of an attempt's entries.
 *
 * Live in the browser (`final: false`) and at signing (`final: true`). When final, a void criterion leaves its
 * skill and the whole, and the *test* skill fails with that reason, which fails the whole. A stop breach fails
 * its skill and the whole. A failure that the instructor charged to its cause counts in that skill instead of
 * its own. A stop fails the skill that was at hand, its step and the whole. A void attempt is void throughout.
 * Pure; the order of entries does not matter. Input that was refused by `checkValue` is not expected here.
 */
export function score(
  sheet: MethodSheet,
  entries: readonly Entry[],
  context: ScoringContext = DEFAULT_SCORING,
): Outcome {
  const compiled = compileSheet(sheet);
  const slots = resolveEntries(entries);
  const criteria = judgeAll(compiled, slots, context);
  const rules: GroupRules = {
    passMarkPercent: sheet.passMarkPercent,
    final: context.final,
    marginalPassCounts: context.marginalPassCounts,
    marginalFailCounts: context.marginalFailCounts,
  };
  const pick = (indexes: readonly number[]): CriterionOutcome[] => indexes.map((i) => criteria[i]!);
  const voided = context.final ? criteria.filter((c) => c.state === 'void' && !follows(c)) : [];
  const testVoid = voided.map((c): Reason => ({
    code: 'group.test_void',
    params: { criterion: c.criterionId },
  }));
  const stops = stopsOf(compiled, slots);
  const finish = (group: GroupOutcome, carriesVoid: boolean, ending: readonly Stop[]): GroupOutcome => {
    if (context.attemptVoid) return { ...group, verdict: 'void', reasons: [ATTEMPT_VOID] };
    const forced = [...ending.map(stopReason), ...(carriesVoid ? testVoid : [])];
    if (forced.length === 0) return group;
    return { ...group, verdict: 'fail', reasons: [...forced, ...group.reasons.filter(isFailReason)] };
  };

  const charged = criteria.some((c) => c.chargedFrom !== null);
  const skills: Partial<Record<Skill, GroupOutcome>> = {};
  for (const skill of charged || testVoid.length > 0 ? skillsTouched(compiled, criteria) : compiled.skills) {
    const indexes = compiled.bySkill.get(skill);
    const group = charged ? criteria.filter((c) => c.skill === skill) : indexes && pick(indexes);
    const ending = stops.filter((s) => s.skill === skill);
    if (group && (indexes || group.length > 0)) {
      skills[skill] = finish(judgeGroup(group, rules), skill === 'test', ending);
    } else if (skill === 'test' && testVoid.length > 0) skills.test = finish(judgeGroup([], rules), true, []);
  }
  return {
    ...finish(judgeGroup(criteria, rules), true, stops),
    scoringVersion: SCORING_VERSION,
    skills,
    steps: compiled.byStep.map(({ step, indexes }) => ({
      stepId: step.id,
      skill: step.skill,
      ...finish(
        judgeGroup(pick(indexes), rules),
        false,
        stops.filter((s) => s.stepId === step.id),
      ),
    })),
    criteria,
    missing: criteria
      .filter((c) => c.required && c.state !== 'scored' && !(context.final && c.state === 'void'))
      .map((c) => c.criterionId),
    conflicts: criteria.filter((c) => c.state === 'conflict').map((c) => c.criterionId),
    stopped: stops.length > 0 || criteria.some((c) => c.stop && c.state === 'scored' && c.verdict === 'fail'),
    stops,
  };
}

/** The skills of a sheet, those that a failure was charged to, and the loss test, which a void reading fails. */
const skillsTouched = (compiled: CompiledSheet, criteria: readonly CriterionOutcome[]): Skill[] =>
  skillsInOrder([...compiled.skills, ...criteria.map((c) => c.skill), 'test']);

/** A criterion is judged after the one that it hangs on; none hangs on itself, by `checkSheet`. */
function judgeAll(
  compiled: CompiledSheet,
  slots: ReturnType<typeof resolveEntries>,
  context: JudgingContext,
): CriterionOutcome[] {
  const judged: CriterionOutcome[] = [];
  const judge = (i: number): CriterionOutcome => {
    const c = compiled.criteria[i]!;
    return (judged[i] ??= judgeCriterion(c, slots, context, c.about === null ? null : judge(c.about)));
  };
  return compiled.criteria.map((_, i) => judge(i));
}

/** Stops that an instructor or a witness entered and that stand, in the order of the sheet. */
const stopsOf = (compiled: CompiledSheet, slots: ReturnType<typeof resolveEntries>): Stop[] =>
  compiled.criteria.flatMap((c) =>
    (slots.get(c.stopKey)?.heads ?? []).flatMap((entry) =>
      entry.value?.kind === 'stop'
        ? {
            entryId: entry.id,
            hazard: entry.value.hazard,
            criterionId: c.criterion.id,
            stepId: c.step.id,
            skill: c.skill,
            note: entry.note,
          }
        : [],
    ),
  );

const stopReason = (stop: Stop): Reason => ({
  code: 'group.stopped',
  params: { hazard: stop.hazard, criterion: stop.criterionId },
});

/** Void only because the criterion that it is about is: that one carries the reason. */
const follows = (c: CriterionOutcome): boolean => c.reasons[0]?.code === 'void.follows';

const ATTEMPT_VOID: Reason = { code: 'group.attempt_void', params: {} };

function isFailReason(reason: Reason): boolean {
  return (
    reason.code === 'group.stop_breach' ||
    reason.code === 'group.stopped' ||
    reason.code === 'group.critical_failed' ||
    reason.code === 'group.pass_mark_missed'
  );
}
