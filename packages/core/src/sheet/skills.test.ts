import { describe, expect, it } from 'vitest';
import { ownName, ownNameWords } from './own-names.ts';
import { isSkill, isThingKind, SKILLS, skillsInOrder, skillsOf, thingsInOrder } from './skills.ts';

describe('what a school names itself', () => {
  it.each([
    ['Closure work', 'own:Closure_work'],
    ['  OTDR   testing ', 'own:OTDR_testing'],
    ['Air-blown fiber', 'own:Air-blown_fiber'],
    ['Muffenmontage für Außen', 'own:Muffenmontage_für_Außen'],
  ])('%s is %s and is read back', (name, skill) => {
    expect(ownName(name)).toBe(skill);
    expect(isSkill(skill)).toBe(true);
    expect(isThingKind(skill)).toBe(true);
    expect(ownNameWords(skill as `own:${string}`)).toBe(name.trim().replace(/\s+/g, ' '));
  });
  it.each(['', '   ', '-', 'a_b', 'a/b', '<b>', 'a'.repeat(41), 'a -b'])(
    '%j is no name of a skill',
    (name) => {
      expect(ownName(name)).toBeNull();
    },
  );
  it.each(['own:', 'own:a b', 'own:a/b', 'other', 'whole', 'own:__', `own:${'a'.repeat(41)}`])(
    '%j is no skill',
    (text) => {
      expect(isSkill(text)).toBe(false);
    },
  );
  it('has a name that is as long as it may be', () => {
    expect(isSkill(ownName('a'.repeat(40))!)).toBe(true);
  });
  it('comes after the skills of the trade, by name, each once', () => {
    expect(skillsInOrder(['own:B', 'test', 'own:A', 'strip', 'own:B', 'cleave'])).toEqual([
      'strip',
      'cleave',
      'test',
      'own:A',
      'own:B',
    ]);
    expect(skillsInOrder([...SKILLS].reverse())).toEqual(SKILLS);
    expect(skillsOf({ 'own:Z': 1, test: 2 })).toEqual(['test', 'own:Z']);
    expect(thingsInOrder(['own:Oven', 'film', 'bench'])).toEqual(['bench', 'film', 'own:Oven']);
  });
});
