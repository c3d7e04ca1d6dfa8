import { type OwnDrill, type Skill, SKILLS } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { consumablesOf, drillFor } from './drills.ts';
import { SHIPPED_METHODS } from './index.ts';

describe('drills', () => {
  it('there is one for each skill, and closer ones for criteria that methods have', () => {
    for (const skill of SKILLS) expect(drillFor(skill, null, []).minutesEach).toBeGreaterThan(0);
    expect(drillFor('cleave', 'clear-mark/any/cleave-angle', []).title).toBe('Angle only');
    expect(drillFor('cleave', 'clear-mark/any/unheard-of', [])).toBe(drillFor('cleave', null, []));
    const tails = new Set(
      SHIPPED_METHODS.flatMap((m) => m.steps.flatMap((s) => s.criteria.map((c) => c.id.split('/').at(-1)!))),
    );
    for (const tail of ['cleave-angle', 'no-nick', 'boot-on', 'reference-set', 'inspect-call']) {
      expect(tails.has(tail), tail).toBe(true);
    }
  });
  it('a school’s own goes before a shipped one that is as close', () => {
    const own = (title: string, criterion: string | null): OwnDrill => ({
      title,
      how: 'As in our book.',
      skill: 'cleave',
      criterion,
      minutesEach: 7,
      consumables: [],
      source: { kind: 'house', fromMemory: false, words: 'our book' },
    });
    const whole = own('Our cleaves', null);
    const angle = own('Our angles', 'cleave-angle');
    const titled = (criterion: string | null, drills: readonly OwnDrill[], skill: Skill = 'cleave'): string =>
      drillFor(skill, criterion, drills).title;
    expect(titled(null, [whole, angle])).toBe('Our cleaves');
    expect(titled('clear-mark/any/unheard-of', [whole, angle])).toBe('Our cleaves');
    expect(titled('clear-mark/any/cleave-angle', [whole, angle])).toBe('Our angles');
    // A shipped drill for this very step is closer than the school's for the whole skill.
    expect(titled('clear-mark/any/cleave-angle', [whole])).toBe('Angle only');
    expect(titled(null, [whole], 'strip')).toBe(drillFor('strip', null, []).title);
    expect(titled(null, [{ ...whole, skill: 'own:Closure_work' }], 'own:Closure_work')).toBe('Our cleaves');
    expect(drillFor('own:Closure_work', null, []).minutesEach).toBeGreaterThan(0);
  });
  it('sums what the drills take: whole things whole, lengths to a tenth', () => {
    const sums = consumablesOf([
      { drill: drillFor('cleave', null, []), pieces: 5 },
      { drill: drillFor('strip', null, []), pieces: 3 },
      { drill: drillFor('cleave', null, []), pieces: 2 },
    ]);
    expect(sums.find((s) => s.name === 'lint-free wipes')?.each).toBe(20);
    expect(sums.find((s) => s.name === 'practice fiber')?.each).toBe(1.1);
    expect(consumablesOf([])).toEqual([]);
  });
});
