import { isTradeThing, pieceSteps, thingsInOrder, type ThingKind } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { cureOf, glueStepOf, SHIPPED_METHODS, STOCK_ITEMS, stockItem, takesOf } from './index.ts';

const ALL: ReadonlySet<ThingKind> = new Set(thingsInOrder(['splicer', 'cleaver', 'scope', 'instrument']));

describe('what methods use up', () => {
  it('is of the stock, in whole uses, and every item is used by some method, or now and then by hand', () => {
    const used = new Set<string>();
    for (const { id } of SHIPPED_METHODS) {
      for (const [item, uses] of Object.entries(takesOf(id).items)) {
        expect([id, item, stockItem(item)?.id]).toEqual([id, item, item]);
        expect(Number.isInteger(uses) && uses > 0).toBe(true);
        used.add(item);
      }
    }
    expect(STOCK_ITEMS.map((i) => i.id).filter((id) => !used.has(id))).toEqual(['film-6', 'gel']);
    expect(STOCK_ITEMS.every((i) => isTradeThing(i.kind) && i.pack > 0 && i.source !== '')).toBe(true);
    expect(takesOf('a school/its own')).toEqual({ items: {}, tools: {} });
  });
  it('of films goes by their sections: five of 14, and sixteen used once (common practice)', () => {
    expect([stockItem('film-3')!.pack, stockItem('film-1')!.pack, stockItem('film-finish')!.pack]).toEqual([
      70, 70, 16,
    ]);
    expect(takesOf('clear-mark/acrylic-primer').items).toMatchObject({
      'film-finish': 1,
      'film-3': 1,
      primer: 1,
    });
    // The front cap of the crimp tool is used once (common practice).
    expect(takesOf('clear-mark/handle-crimp').items['front-cap']).toBe(1);
  });
  it('wears the tools that the method has', () => {
    for (const { id, thingsUsed } of SHIPPED_METHODS) {
      for (const kind of Object.keys(takesOf(id).tools))
        expect([id, thingsUsed]).toEqual([id, expect.arrayContaining([kind])]);
    }
  });
});

describe('shipped methods as steps of a day', () => {
  it.each(SHIPPED_METHODS.map((m) => [m.id, m] as const))('%s', (id, sheet) => {
    const cure = cureOf(id);
    const { steps, placeOf } = pieceSteps(sheet, ALL, cure);
    expect(steps.length).toBeGreaterThan(0);
    // A piece takes ten minutes to an hour, closures and trunks a little more (common practice).
    const hands = steps.reduce((sum, s) => sum + (s.kind === 'work' ? s.minutes : 0), 0);
    expect(hands).toBeGreaterThanOrEqual(5);
    expect(hands).toBeLessThanOrEqual(90);
    for (const step of steps) {
      if (step.kind === 'cure') expect(step.minutes).toBe(cure!.minutes);
      else expect(step.watched <= step.minutes && step.minutes >= 1).toBe(true);
    }
    expect(steps.filter((s) => s.kind === 'cure')).toHaveLength(cure ? 1 : 0);
    expect([...placeOf.keys()]).toEqual(sheet.steps.map((s) => s.id));
    const glue = glueStepOf(id);
    if (glue) expect(steps[placeOf.get(glue)!]!.kind).toBe('work');
  });
  it('wait for no equipment that nobody shares', () => {
    const splice = SHIPPED_METHODS.find((m) => m.id === 'clear-mark/single-fusion')!;
    const stations = (shared: ReadonlySet<ThingKind>): (string | null)[] =>
      pieceSteps(splice, shared, null).steps.map((s) => (s.kind === 'work' ? s.station : ''));
    expect(stations(new Set())).toEqual([null]);
    expect(stations(new Set(['splicer']))).toContain('splicer');
    expect(stations(new Set(['scope']))).toEqual([null]);
  });
});
