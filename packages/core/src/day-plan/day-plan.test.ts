import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  buildPlan,
  type DayPlan,
  firstCome,
  leastEnd,
  planFaults,
  type PieceStep,
  searchPlan,
} from './index.ts';
import { cure, DAY, dayOf, EPOXY, randomFrom, SPLICE, work } from './days-for-tests.ts';

describe('a plan by hand', () => {
  it('one splice takes what its steps take, and the bound is that', () => {
    const day = dayOf([['a', SPLICE]]);
    const plan = firstCome(day);
    expect(plan.work.map((w) => [w.from, w.to, w.unit, w.instructor])).toEqual([
      [0, 6, null, null],
      [6, 11, 1, 1],
      [11, 15, 1, null],
    ]);
    expect([plan.endsAt, leastEnd(day).endsAt, planFaults(day, plan)]).toEqual([15, 15, []]);
  });
  it('two of one trainee follow each other at the bench; two trainees share one tester', () => {
    expect(
      firstCome(
        dayOf([
          ['a', [work('x', 10)]],
          ['a', [work('x', 10)]],
        ]),
      ).endsAt,
    ).toBe(20);
    const two = dayOf([
      ['a', [work('t', 10, 'tester')]],
      ['b', [work('t', 10, 'tester')]],
    ]);
    expect([firstCome(two).endsAt, leastEnd(two)]).toEqual([
      20,
      { endsAt: 20, of: { kind: 'station', id: 'tester' } },
    ]);
  });
  it('pieces of one schedule go into the oven together; the trainee works on meanwhile', () => {
    const day = dayOf([
      ['a', [work('prepare', 10), cure(), work('polish', 8)]],
      ['b', [work('prepare', 10), cure(), work('polish', 8)]],
      ['a', [work('strip', 20)]],
    ]);
    const plan = searchPlan(day, { tries: 200, random: randomFrom(1) });
    expect(plan.loads).toHaveLength(1);
    expect(plan.loads[0]!.members).toHaveLength(2);
    expect(plan.endsAt).toBe(43);
  });
  it('another schedule is another load, and each oven rests between two', () => {
    const one = { ovens: [DAY.ovens[0]!] };
    const day = dayOf(
      [
        ['a', [cure(20, 'x')]],
        ['b', [cure(20, 'y')]],
      ],
      one,
    );
    const plan = firstCome(day);
    expect(plan.loads.map((l) => [l.from, l.to])).toEqual([
      [0, 20],
      [25, 45],
    ]);
    expect(leastEnd(day)).toEqual({ endsAt: 45, of: { kind: 'ovens' } });
  });
  it('work stops for a break, an oven does not', () => {
    const plan = firstCome(
      dayOf([
        ['a', [work('x', 110), work('y', 20)]],
        ['b', [work('x', 110), cure(20), work('y', 5)]],
      ]),
    );
    const of = (id: string): number[] => plan.work.filter((w) => w.pieceId === id).map((w) => w.from);
    expect([of('p1'), of('p2'), plan.loads[0]!.to]).toEqual([[0, 135], [0, 135], 130]);
  });
  it('the end of a step that is watched waits for an instructor', () => {
    const steps = [work('cleave', 10, null, 4)];
    const plan = firstCome(
      dayOf([
        ['a', steps],
        ['b', steps],
        ['c', steps],
      ]),
    );
    expect(plan.work.map((w) => w.to)).toEqual([10, 14, 18]);
  });
});

describe('what does not fit', () => {
  it('is left out whole and said: too long a day, no oven, no station, nobody to watch', () => {
    const long = dayOf([
      ['a', [work('x', 130)]],
      ['b', SPLICE],
    ]);
    expect([firstCome(long).left, firstCome(long).endsAt]).toEqual([['p1'], 15]);
    expect(firstCome(dayOf([['a', EPOXY]], { ovens: [] })).left).toEqual(['p1']);
    expect(leastEnd(dayOf([['a', EPOXY]], { ovens: [] })).endsAt).toBe(Infinity);
    expect(firstCome(dayOf([['a', SPLICE]], { stations: { tester: 1 } })).left).toEqual(['p1']);
    expect(firstCome(dayOf([['a', SPLICE]], { instructors: 0 })).left).toEqual(['p1']);
    // A cure that would end after the hall is shut.
    expect(firstCome(dayOf([['a', [work('x', 100), work('y', 110), cure(60)]]])).left).toEqual(['p1']);
  });
});

describe('the check of a plan', () => {
  const day = dayOf([
    ['a', EPOXY],
    ['b', SPLICE],
  ]);
  const plan = firstCome(day);
  const broken = (change: (p: { -readonly [K in keyof DayPlan]: DayPlan[K] }) => void): string[] => {
    const copy = { ...plan } as { -readonly [K in keyof DayPlan]: DayPlan[K] };
    change(copy);
    return planFaults(day, copy).map((f) => f.fault);
  };
  it('finds none in a plan that holds', () => expect(planFaults(day, plan)).toEqual([]));
  it.each<[string, string, (p: { -readonly [K in keyof DayPlan]: DayPlan[K] }) => void]>([
    ['a step twice', 'twice', (p) => (p.work = [...p.work, p.work[0]!])],
    ['a step that is missing', 'missing', (p) => (p.work = p.work.slice(1))],
    ['a step of nobody', 'unknown', (p) => (p.work = [...p.work, { ...p.work[0]!, pieceId: 'p9' }])],
    [
      'a step before the one before it',
      'order',
      (p) => (p.work = p.work.map((w) => (w.step === 3 ? { ...w, from: 0, to: 3 } : w))),
    ],
    [
      'a step cut short',
      'minutes',
      (p) => (p.work = p.work.map((w) => (w.step === 0 ? { ...w, to: w.to - 1 } : w))),
    ],
    [
      'work in the break',
      'hours',
      (p) => (p.work = p.work.map((w) => (w.step === 3 ? { ...w, from: 125, to: 128 } : w))),
    ],
    ['a cure cut short', 'load_short', (p) => (p.loads = p.loads.map((l) => ({ ...l, to: l.to - 5 })))],
    [
      'another schedule in the load',
      'load_mixed',
      (p) => (p.loads = p.loads.map((l) => ({ ...l, schedule: 'other' }))),
    ],
    [
      'an oven that is not there',
      'oven_unknown',
      (p) => (p.loads = p.loads.map((l) => ({ ...l, ovenId: 'x' }))),
    ],
    [
      'a third splicer',
      'overlap',
      (p) => (p.work = p.work.map((w) => (w.unit === 1 ? { ...w, unit: 3 } : w))),
    ],
    ['another end', 'ends_at', (p) => (p.endsAt += 1)],
  ])('%s', (_, fault, change) => {
    expect(broken(change)).toContain(fault);
  });
});

/** Days as classes have them. */
const days = fc
  .record({
    trainees: fc.integer({ min: 1, max: 8 }),
    pieces: fc.array(fc.tuple(fc.nat(7), fc.constantFrom(EPOXY, SPLICE, [work('strip', 12, null, 3)])), {
      minLength: 1,
      maxLength: 24,
    }),
    ovens: fc.integer({ min: 0, max: 2 }),
    splicers: fc.integer({ min: 1, max: 3 }),
    instructors: fc.integer({ min: 1, max: 2 }),
  })
  .map(({ trainees, pieces, ovens, splicers, instructors }) =>
    dayOf(
      pieces.map(([t, steps]) => [`t${t % trainees}`, steps] as const),
      { ovens: DAY.ovens.slice(0, ovens), stations: { ...DAY.stations, splicer: splicers }, instructors },
    ),
  );

describe('plans of any day', () => {
  it('hold, from any order', () => {
    fc.assert(
      fc.property(days, fc.integer(), (day, seed) => {
        const random = randomFrom(seed);
        const order = day.pieces.flatMap((p) => p.steps.map(() => p.id)).sort(() => random() - 0.5);
        expect(planFaults(day, buildPlan(day, order))).toEqual([]);
      }),
      { numRuns: 120 },
    );
  });
  it('found by search hold, leave no more out and end no later than first come, and never before the bound', () => {
    fc.assert(
      fc.property(days, fc.integer(), (day, seed) => {
        const found = searchPlan(day, { tries: 60, random: randomFrom(seed) });
        const plain = firstCome(day);
        expect(planFaults(day, found)).toEqual([]);
        expect(found.left.length).toBeLessThanOrEqual(plain.left.length);
        if (found.left.length === plain.left.length) expect(found.endsAt).toBeLessThanOrEqual(plain.endsAt);
        if (found.left.length === 0) expect(found.endsAt).toBeGreaterThanOrEqual(leastEnd(day).endsAt - 1e-9);
      }),
      { numRuns: 60 },
    );
  });
});

/** Every order of the steps. */
function* ordersOf(left: ReadonlyMap<string, number>): Generator<string[]> {
  let any = false;
  for (const [id, n] of left) {
    if (n === 0) continue;
    any = true;
    for (const rest of ordersOf(new Map([...left, [id, n - 1]]))) yield [id, ...rest];
  }
  if (!any) yield [];
}

describe('small days', () => {
  const SMALL: readonly (readonly (readonly [string, readonly PieceStep[]])[])[] = [
    [
      ['a', SPLICE],
      ['b', SPLICE],
      ['a', SPLICE],
    ],
    [
      ['a', [work('p', 10), cure(), work('q', 8)]],
      ['b', [work('p', 4), cure(), work('q', 9)]],
      ['a', [work('s', 15), work('t', 7, 'tester')]],
    ],
    [
      ['a', [work('x', 7, 'scope', 3), work('y', 9, 'tester')]],
      ['b', [work('y', 9, 'tester'), work('x', 7, 'scope', 3)]],
      ['c', [work('x', 5, 'scope'), work('z', 12)]],
    ],
  ];
  it.each(SMALL.map((pieces, i) => [i, pieces] as const))(
    'day %d is as good as the best of all orders',
    (_, pieces) => {
      const day = dayOf(pieces);
      let best = Infinity;
      for (const order of ordersOf(new Map(day.pieces.map((p) => [p.id, p.steps.length])))) {
        best = Math.min(best, buildPlan(day, order).endsAt);
      }
      expect(searchPlan(day, { tries: 600, random: randomFrom(5) }).endsAt).toBe(best);
    },
  );
  it('the same numbers give the same plan; a search that is stopped gives what it has', () => {
    const day = dayOf(
      Array.from({ length: 9 }, (_, i) => [`t${i % 3}`, i % 2 === 0 ? SPLICE : EPOXY] as const),
    );
    const of = (seed: number): DayPlan => searchPlan(day, { tries: 80, random: randomFrom(seed) });
    expect(of(3)).toEqual(of(3));
    const told: number[] = [];
    const stopped = searchPlan(day, {
      tries: 1000,
      random: randomFrom(1),
      progress: (done) => (told.push(done), told.length < 2),
    });
    expect(told.length).toBeLessThanOrEqual(2);
    expect(planFaults(day, stopped)).toEqual([]);
  });
});
