import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  attemptsNeeded,
  type Lot,
  priorOf,
  shoppingList,
  shortOfStock,
  takeLots,
  thingState,
  type ThingUse,
} from './index.ts';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 8, 14, 12);
const USE: ThingUse = {
  uses: 70,
  used: 10,
  perDay: 4,
  expiresMs: null,
  openedMs: null,
  openedDays: null,
  dueMs: null,
};
const state = (more: Partial<ThingUse>) => thingState({ ...USE, ...more }, NOW);

describe('what is left of a thing', () => {
  it('is what was there less what was used, never under none, and lasts at the pace of lately', () => {
    expect(state({})).toEqual({ left: 60, lastsDays: 15, goodUntilMs: null, warnings: [] });
    expect(state({ used: 90 })).toMatchObject({ left: 0, warnings: ['used_up'] });
    expect(state({ uses: null })).toEqual({ left: null, lastsDays: null, goodUntilMs: null, warnings: [] });
    expect(state({ perDay: 0 }).lastsDays).toBeNull();
  });
  it.each([
    ['a tenth is left', { used: 63, perDay: 0 }, ['runs_out']],
    ['a little more than a tenth is left', { used: 62, perDay: 0 }, []],
    ['it lasts a week', { perDay: 60 / 7 }, ['runs_out']],
    ['it lasts a little longer', { perDay: 60 / 7.1 }, []],
    ['it expires now', { expiresMs: NOW }, ['expired']],
    ['it expires in a moment', { expiresMs: NOW + 1 }, ['expires_soon']],
    ['it expires in a week', { expiresMs: NOW + 7 * DAY }, ['expires_soon']],
    ['it expires later', { expiresMs: NOW + 7 * DAY + 1 }, []],
    ['it was opened so long ago', { openedMs: NOW - 30 * DAY, openedDays: 30 }, ['expired']],
    [
      'opened, its own date is nearer',
      { openedMs: NOW, openedDays: 30, expiresMs: NOW + DAY },
      ['expires_soon'],
    ],
    ['it is due', { dueMs: NOW }, ['overdue']],
    ['it is due in a week', { dueMs: NOW + 7 * DAY }, ['due_soon']],
    [
      'everything is wrong',
      { used: 70, expiresMs: NOW - 1, dueMs: NOW - 1 },
      ['expired', 'used_up', 'overdue'],
    ],
  ] as const)('warns when %s', (_, use, warnings) => expect(state(use).warnings).toEqual(warnings));
});

const lot = (id: string, more: Partial<Lot> = {}): Lot => ({
  id,
  item: 'primer',
  left: 5,
  goodUntilMs: null,
  isOpened: false,
  ...more,
});
const ONE = [{ item: 'primer', uses: 1 }];

describe('lots', () => {
  it('are taken opened before closed, then what expires first, never past its date or too little', () => {
    const lots = [
      lot('a'),
      lot('late', { goodUntilMs: NOW + 2 * DAY }),
      lot('soon', { goodUntilMs: NOW + DAY }),
      lot('past', { goodUntilMs: NOW, isOpened: true }),
      lot('empty', { left: 0, isOpened: true }),
    ];
    const first = (of: readonly Lot[]) => takeLots(of, ONE, NOW).taken[0]?.lotId;
    expect(first(lots)).toBe('soon');
    expect(first([...lots, lot('open', { isOpened: true })])).toBe('open');
    expect(first(lots.filter((l) => l.id !== 'soon'))).toBe('late');
    expect(takeLots([lots[3]!, lots[4]!], ONE, NOW)).toEqual({ taken: [], short: ['primer'] });
    // Nobody keeps a lot of it: it is not counted, and so not short.
    expect(takeLots([], ONE, NOW)).toEqual({ taken: [], short: [] });
  });
  it('serve pieces in their order, and it is said which they do not reach', () => {
    const pieces = [1, 2, 3].map((n) => ({ n, needs: [{ item: 'primer', uses: 2 }] }));
    const found = shortOfStock([lot('a', { left: 3 }), lot('b', { left: 2 })], pieces, NOW);
    expect(found).toEqual([{ piece: pieces[2], short: ['primer'] }]);
  });
  it('are never overdrawn', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 6 })),
        fc.array(fc.integer({ min: 1, max: 4 })),
        (lefts, uses) => {
          const lots = lefts.map((left, i) => lot(`l${i}`, { left }));
          const pieces = uses.map((u, n) => ({ n, needs: [{ item: 'primer', uses: u }] }));
          const short = shortOfStock(lots, pieces, NOW).length;
          const served = uses.reduce((a, b) => a + b, 0);
          const all = lefts.reduce((a, b) => a + b, 0);
          if (lots.length > 0 && served > all) expect(short).toBeGreaterThan(0);
          if (lots.length === 0) expect(short).toBe(0);
        },
      ),
    );
  });
});

/** P(failures ≤ k) by adding the mass over a fine grid of rates: another way to the same number. */
function shareByGrid(wanted: number, failures: number, a: number, b: number): number {
  const N = 20_000;
  let sum = 0;
  let all = 0;
  for (let i = 0; i < N; i++) {
    const p = (i + 0.5) / N;
    const weight = p ** (a - 1) * (1 - p) ** (b - 1);
    let term = p ** wanted;
    let share = term;
    for (let k = 1; k <= failures; k++) {
      term *= ((wanted + k - 1) / k) * (1 - p);
      share += term;
    }
    sum += weight * share;
    all += weight;
  }
  return sum / all;
}

describe('attempts for a number of good pieces', () => {
  it('ten wanted, 90 of 100 passed: 11 at one half, 13 at 95 %', () => {
    expect([0.5, 0.95].map((s) => attemptsNeeded(10, { passed: 90, failed: 10 }, s))).toEqual([11, 13]);
  });
  it.each([
    [1, 3, 1],
    [10, 20, 5],
    [24, 8, 4],
    [40, 300, 60],
  ])(
    'of %i wanted is the least that reaches the share, by adding over rates (%i passed, %i failed)',
    (wanted, passed, failed) => {
      for (const share of [0.5, 0.8, 0.95]) {
        const failures = attemptsNeeded(wanted, { passed, failed }, share) - wanted;
        expect(shareByGrid(wanted, failures, passed + 0.5, failed + 0.5)).toBeGreaterThanOrEqual(
          share - 1e-4,
        );
        if (failures > 0)
          expect(shareByGrid(wanted, failures - 1, passed + 0.5, failed + 0.5)).toBeLessThan(share + 1e-4);
      }
    },
  );
  it('is less with better hands, more with more certainty, and bounded where nothing is known', () => {
    fc.assert(
      fc.property(fc.nat(40), fc.nat(30), fc.nat(30), (wanted, passed, failed) => {
        const needed = (share: number, more = 0) =>
          attemptsNeeded(wanted, { passed: passed + more, failed }, share);
        expect(needed(0.5)).toBeGreaterThanOrEqual(wanted);
        expect(needed(0.95)).toBeGreaterThanOrEqual(needed(0.8));
        expect(needed(0.8, 5)).toBeLessThanOrEqual(needed(0.8));
        expect(needed(0.999)).toBeLessThanOrEqual(200 * wanted);
      }),
    );
  });
  it('of a kind that nobody made goes by the others, and less widely than by nothing', () => {
    const prior = priorOf({ passed: 60, failed: 40 });
    expect(prior.a / (prior.a + prior.b)).toBeCloseTo(0.6, 2);
    const nothing = { passed: 0, failed: 0 };
    expect(attemptsNeeded(24, nothing, 0.95, prior)).toBeLessThan(attemptsNeeded(24, nothing, 0.95));
  });
  it.each([
    [-1, 0.5, 'stock.bad_counts'],
    [1.5, 0.5, 'stock.bad_counts'],
    [2, 0, 'stock.bad_share'],
    [2, 1, 'stock.bad_share'],
    [2, NaN, 'stock.bad_share'],
  ])('%f pieces at a share of %f are refused', (wanted, share, code) => {
    expect(() => attemptsNeeded(wanted, { passed: 1, failed: 1 }, share)).toThrow(code);
  });
});

describe('a shopping list', () => {
  it('adds what methods need of an item, less what is there, in whole packs', () => {
    const needs = [{ item: 'wipes', uses: 4 }];
    const sure = { passed: 1_000_000, failed: 0, needs };
    const lines = shoppingList(
      [
        { wanted: 10, ...sure },
        { wanted: 5, ...sure },
      ],
      [{ item: 'wipes', left: 12, pack: 20 }],
    );
    expect(lines).toEqual([
      { item: 'wipes', left: 12, pack: 20, usual: 60, at80: 60, at95: 60, packs80: 3, packs95: 3 },
    ]);
    expect(shoppingList([{ wanted: 10, ...sure }], [{ item: 'wipes', left: 40, pack: 20 }])[0]).toMatchObject(
      {
        packs80: 0,
        packs95: 0,
      },
    );
    expect(shoppingList([{ wanted: 0, ...sure }], [])[0]).toMatchObject({ usual: 0, packs95: 0 });
  });
});
