import { describe, expect, it } from 'vitest';
import { withOneMore } from './zone-rules.ts';
import { zoneRuleWords } from '@clear-mark/words';

describe('the rule of a zone in words', () => {
  it('says no limit, none, and each size with what is larger', () => {
    expect(zoneRuleWords('no_limit')).toBe('no limit');
    expect(zoneRuleWords([])).toBe('none');
    expect(zoneRuleWords([{ fromUm: 0, toUm: 3, count: null }])).toBe('any number up to 3 µm, none larger');
    expect(
      zoneRuleWords([
        { fromUm: 0, toUm: 2, count: null, under: true },
        { fromUm: 2, toUm: 5, count: 5 },
      ]),
    ).toBe('any number under 2 µm, 5 from 2 to 5 µm, none larger');
  });
});

it('a further size begins where the last one ends', () => {
  expect(withOneMore([])).toEqual([{ fromUm: 0, toUm: 3, count: null }]);
  expect(withOneMore([{ fromUm: 0, toUm: 5, count: 1 }])[1]).toEqual({ fromUm: 5, toUm: 8, count: null });
});
