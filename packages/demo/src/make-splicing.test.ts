import { DEFAULT_SCORING, linkFindings, type Outcome, score } from '@clear-mark/core';
import { EXAMPLE_LINKS, linkOfAttempt, SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { makeSplicing, SPLICING } from './index.ts';

const sheet = SHIPPED_METHODS.find((m) => m.id === 'clear-mark/single-fusion')!;
const make = (seed: number, story: boolean) =>
  makeSplicing({ seed, story, now: new Date('2026-03-18T14:30:00Z'), sheet });
const outcomes = (seed: number, story: boolean) => {
  const data = make(seed, story);
  return data.attempts.map((a) => ({
    trainee: data.people.findIndex((p) => p.id === a.traineeId) - 1,
    outcome: score(sheet, a.entries, { ...DEFAULT_SCORING, final: true }),
  }));
};
const failsOf = (list: readonly { trainee: number; outcome: Outcome }[], trainee: number): number =>
  list.filter((a) => a.trainee === trainee && a.outcome.skills.cleave?.verdict === 'fail').length;

describe('the splicing days', () => {
  it('are complete, the same for the same seed, and lie in the past', () => {
    const data = make(7, true);
    expect(data).toEqual(make(7, true));
    expect(data.attempts).toHaveLength(72);
    expect(data.endsOn < '2026-03-01').toBe(true);
    expect(outcomes(7, true).every((a) => a.outcome.missing.length === 0)).toBe(true);
  });
  it('the careless trainee fails at cleaving more than the others; without the story not', () => {
    const told = outcomes(7, true);
    const others = SPLICING.trainees.map((_, t) => t).filter((t) => t !== SPLICING.carelessLeft);
    const most = Math.max(...others.map((t) => failsOf(told, t)));
    expect(failsOf(told, SPLICING.carelessLeft)).toBeGreaterThan(most);
    const plain = outcomes(7, false);
    const total = plain.filter((a) => a.outcome.skills.cleave?.verdict === 'fail').length;
    expect(failsOf(plain, SPLICING.carelessLeft)).toBeLessThanOrEqual(total / 6 + 4);
  });
  it.each(EXAMPLE_LINKS.map((l) => [l.label, l] as const))('link %s is sound', (_, link) => {
    expect(linkFindings(link.plan)).toEqual([]);
    expect(linkOfAttempt({ id: 'x', ...link }).rules.uncertainty.length).toBeGreaterThan(2);
  });
});
