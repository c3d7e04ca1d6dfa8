import type { StandingCell } from '@clear-mark/contract';
import { DEFAULT_POLICY, type Skill, standingOf, wilsonRate } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { classSentences, ruleWords, traineeSentences } from './two-sentences.ts';

const cell = (skill: Skill, marks: string, behind: StandingCell['behind'] = null): StandingCell => {
  const { standing, evidence, window } = standingOf({ marks, lastPassMs: 1 }, DEFAULT_POLICY, 2);
  const k = [...marks].filter((m) => m === 'P').length;
  return {
    skill,
    standing,
    window,
    behind,
    rate: wilsonRate(k, marks.length),
    evidence: { code: evidence.code, params: { ...evidence.params } },
  };
};
const BEHIND = { criterionId: 'x', label: 'Angle', stepTitle: 'Cleave the fiber', times: 3 };
const say = (...cells: StandingCell[]): string =>
  traineeSentences('Ines Marl', cells, DEFAULT_POLICY).join(' ');

describe('two sentences for a trainee', () => {
  it('what is shown, and what is needed again with its step', () => {
    expect(say(cell('strip', 'PPP'), cell('cleave', 'PPPFF', BEHIND), cell('test', 'P'))).toBe(
      'Ines Marl is competent in stripping and is still learning loss test. ' +
        'Needs retraining in cleaving: the last 2 of 5 outcomes failed, mostly at “Cleave the fiber”.',
    );
  });
  it('the nearest skill where nothing is needed again', () => {
    const words = say(cell('strip', 'FFP'), cell('cleave', 'FPP'));
    expect(words).toContain('Next is cleaving: at this rate about');
    expect(say(cell('strip', 'PPP'))).toContain('Nothing asks for retraining.');
    expect(say(cell('strip', 'F'))).toContain('Nothing asks for retraining.');
  });
  it('nothing tried, and nothing shown', () => {
    expect(say(cell('strip', ''))).toContain('no outcome with a verdict yet');
    expect(say(cell('strip', 'PFF'))).toContain('shows no skill as competent');
  });
});

const rated = (skill: Skill, k: number, n: number) => ({
  skill,
  summary: { rate: wilsonRate(k, n) } as never,
});

describe('two sentences for a class', () => {
  it('calls skills best and weakest only when their intervals part', () => {
    const apart = classSentences({
      skills: [rated('strip', 95, 100), rated('cleave', 50, 100)],
      standings: [],
    });
    expect(apart[0]).toContain('Stripping goes best, 95 of 100 passed');
    expect(apart[1]).toBe('Nobody needs retraining.');
    const alike = classSentences({ skills: [rated('strip', 3, 3), rated('cleave', 2, 3)], standings: [] });
    expect(alike[0]).toContain('The skills pass alike');
    expect(classSentences({ skills: [], standings: [] })[0]).toContain('Nothing is signed');
    expect(classSentences({ skills: [rated('strip', 1, 1)], standings: [] })[0]).toContain(
      'In stripping 1 of 1',
    );
  });
  it('names who needs what again', () => {
    const standings = ['A. Fell', 'B. Garn'].map((traineeName) => ({
      traineeId: traineeName,
      traineeName,
      cells: [cell('cleave', 'FFF')],
    }));
    const [, second] = classSentences({ skills: [rated('cleave', 0, 6)], standings });
    expect(second).toBe('A. Fell and B. Garn need retraining, in cleaving (2).');
  });
});

it('the rule of a policy', () => {
  expect(ruleWords(DEFAULT_POLICY)).toBe('3 passes in a row');
  expect(ruleWords({ ...DEFAULT_POLICY, competentBy: 'share' })).toBe('8 passes among the last 10 outcomes');
  expect(ruleWords({ ...DEFAULT_POLICY, competentBy: 'chart' })).toContain('0.1 against 0.3');
});
