import {
  isFailMark,
  isPassMark,
  outcomeMark,
  skillMark,
  type Policy,
  type StandingName,
  standingOf,
} from '../competence/index.ts';
import { isFail, isPass, type Outcome, type Verdict } from '../scoring/index.ts';
import { type Skill, skillsInOrder, skillsOf } from '../sheet/index.ts';
import { type Rate, wilsonRate } from '../stats/index.ts';

export interface WhatIfChange {
  readonly attemptId: string;
  readonly before: Verdict;
  readonly after: Verdict;
}
export interface WhatIfStanding {
  readonly traineeId: string;
  readonly skill: Skill;
  readonly before: StandingName;
  readonly after: StandingName;
}
export interface WhatIfResult {
  readonly attempts: number;
  readonly changed: number;
  readonly newlyFailed: number;
  readonly newlyPassed: number;
  readonly skills: readonly {
    readonly skill: Skill | 'whole';
    readonly before: Rate;
    readonly after: Rate;
  }[];
  readonly standings: readonly WhatIfStanding[];
  readonly changes: readonly WhatIfChange[];
}
export interface WhatIfTally {
  /** Attempts in order of time. */
  readonly add: (
    attempt: { readonly id: string; readonly traineeId: string; readonly startedMs: number },
    before: Outcome,
    after: Outcome,
  ) => void;
  readonly result: (nowMs: number) => WhatIfResult;
}

interface History {
  marks: string;
  lastPassMs: number | null;
}
interface Pair {
  readonly traineeId: string;
  readonly skill: Skill;
  readonly before: History;
  readonly after: History;
}

const MOST_CHANGES = 200;

/**
 * Who and what comes out otherwise, counted attempt by attempt: rates of each skill and of the whole before and after, the
 * standings that differ, the first 200 attempts whose verdict differs. Input: both outcomes of each attempt by `score`, in
 * order of time; the policies before and after.
 */
export function whatIfTally(before: Policy, after: Policy): WhatIfTally {
  const counts = new Map<string, { k0: number; n0: number; k1: number; n1: number }>();
  const pairs = new Map<string, Pair>();
  const changes: WhatIfChange[] = [];
  let attempts = 0;
  let changed = 0;
  let newlyFailed = 0;
  let newlyPassed = 0;

  const count = (skill: Skill | 'whole', a: string, b: string): void => {
    const c = counts.get(skill) ?? { k0: 0, n0: 0, k1: 0, n1: 0 };
    c.k0 += Number(isPassMark(a));
    c.n0 += Number(isPassMark(a) || isFailMark(a));
    c.k1 += Number(isPassMark(b));
    c.n1 += Number(isPassMark(b) || isFailMark(b));
    counts.set(skill, c);
  };
  const pairedSkills = (): Skill[] => [...pairs.values()].map((p) => p.skill);
  return {
    add: (attempt, was, is) => {
      attempts += 1;
      for (const skill of skillsOf({ ...was.skills, ...is.skills })) {
        const a = skillMark(was, skill) ?? '';
        const b = skillMark(is, skill) ?? '';
        if (a === '' && b === '') continue;
        count(skill, a, b);
        const key = `${attempt.traineeId} ${skill}`;
        let pair = pairs.get(key);
        if (!pair) {
          const { traineeId } = attempt;
          pair = {
            traineeId,
            skill,
            before: { marks: '', lastPassMs: null },
            after: { marks: '', lastPassMs: null },
          };
          pairs.set(key, pair);
        }
        note(pair.before, a, attempt.startedMs);
        note(pair.after, b, attempt.startedMs);
      }
      count('whole', outcomeMark(was.verdict, false), outcomeMark(is.verdict, false));
      if (was.verdict === is.verdict) return;
      changed += 1;
      newlyFailed += Number(isPass(was.verdict) && isFail(is.verdict));
      newlyPassed += Number(isFail(was.verdict) && isPass(is.verdict));
      if (changes.length < MOST_CHANGES) {
        changes.push({ attemptId: attempt.id, before: was.verdict, after: is.verdict });
      }
    },
    result: (nowMs) => ({
      attempts,
      changed,
      newlyFailed,
      newlyPassed,
      changes,
      skills: [...skillsInOrder(pairedSkills()), 'whole' as const].flatMap((skill) => {
        const c = counts.get(skill);
        return c ? [{ skill, before: wilsonRate(c.k0, c.n0), after: wilsonRate(c.k1, c.n1) }] : [];
      }),
      standings: [...pairs.values()]
        .map((p) => ({
          traineeId: p.traineeId,
          skill: p.skill,
          before: standingOf(p.before, before, nowMs).standing,
          after: standingOf(p.after, after, nowMs).standing,
        }))
        .filter((s) => s.before !== s.after),
    }),
  };
}

function note(history: History, mark: string, at: number): void {
  history.marks += mark;
  if (isPassMark(mark)) history.lastPassMs = Math.max(at, history.lastPassMs ?? at);
}
