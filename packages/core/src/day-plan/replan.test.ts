import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Away,
  changesThatFit,
  dayWanted,
  type DayWanted,
  dispatchPlan,
  type FixedStep,
  instantOf,
  leastEnd,
  leastOnMachines,
  minuteOf,
  overBound,
  type PieceStep,
  planFaults,
  replan,
  searchPlan,
  stretchedTo,
  usualTries,
  whyLeft,
} from './index.ts';
import { cure, DAY, dayOf, EPOXY, randomFrom, SPLICE, work } from './days-for-tests.ts';

const options = { tries: 40, random: randomFrom(1) };
const BUSY = dayOf(
  Array.from({ length: 12 }, (_, i) => [`t${i % 6}`, i % 3 === 0 ? EPOXY : SPLICE] as const),
  { stations: { splicer: 2, scope: 1, tester: 1 } },
);
const PLAN = searchPlan(BUSY, { tries: 200, random: randomFrom(2) });

/** What was begun before a minute stays. */
const begunBefore = (minute: number): FixedStep[] => [
  ...PLAN.work.filter((w) => w.from < minute).map((w): FixedStep => ({ kind: 'work', work: w })),
  ...PLAN.loads.filter((l) => l.from < minute).map((load): FixedStep => ({ kind: 'load', load })),
];

/** Early enough that all that there is still has something to do. */
const AT = 8;

describe('a day planned again', () => {
  it('in which nothing came differently stays as it is', () => {
    const { plan, moved } = replan(BUSY, PLAN, options);
    expect([moved, plan.endsAt, plan.left]).toEqual([[], PLAN.endsAt, []]);
    const later = replan({ ...BUSY, notBefore: 30, fixed: begunBefore(30) }, PLAN, options);
    expect(later.moved).toEqual([]);
  });

  it.each<[string, Away]>([
    ['a splicer that broke', { of: { kind: 'station', id: 'splicer', unit: 1 }, from: AT, to: 255 }],
    ['an oven that broke', { of: { kind: 'oven', id: 'o1' }, from: AT, to: 255 }],
    ['a trainee who is away for an hour', { of: { kind: 'trainee', id: 't1' }, from: AT, to: 90 }],
    ['an instructor who is called away', { of: { kind: 'instructor', unit: 1 }, from: AT, to: 60 }],
  ])('with %s holds, and keeps what was done', (_, away) => {
    const now = { ...BUSY, notBefore: AT, fixed: begunBefore(AT), away: [away] };
    const { plan, moved } = replan(now, PLAN, options);
    expect(planFaults(now, plan)).toEqual([]);
    expect(plan.left).toEqual([]);
    expect(moved.length).toBeGreaterThan(0);
    // As little as possible: whatever lies before it is not touched, and most of the rest neither.
    expect(moved.every((m) => m.from >= AT)).toBe(true);
    expect(moved.length).toBeLessThan(PLAN.work.length);
    expect(planFaults(now, PLAN).map((f) => f.fault)).toContain('away');
  });

  it('around a step that is held by hand keeps that step', () => {
    const held = PLAN.work.find((w) => w.from > 20)!;
    const at = { ...held, from: held.from + 17, to: held.to + 17 };
    const now: DayWanted = { ...BUSY, fixed: [{ kind: 'work', work: at }] };
    const { plan } = replan(now, PLAN, options);
    expect(plan.work).toContainEqual(at);
    expect(planFaults(now, plan)).toEqual([]);
    expect(planFaults(now, PLAN).map((f) => f.fault)).toContain('not_kept');
  });

  it('takes pieces in that came later, and drops those that nobody wants any more', () => {
    const more = {
      ...BUSY,
      pieces: [...BUSY.pieces.slice(1), { id: 'new', traineeId: 't9', steps: SPLICE }],
    };
    const { plan, moved } = replan(more, PLAN, options);
    expect(planFaults(more, plan)).toEqual([]);
    expect(new Set(moved.filter((m) => m.was === null).map((m) => m.pieceId))).toEqual(new Set(['new']));
  });

  it('holds whatever comes differently', () => {
    const away = fc.record({
      of: fc.constantFrom<Away['of']>(
        { kind: 'trainee', id: 't1' },
        { kind: 'station', id: 'splicer', unit: 2 },
        { kind: 'oven', id: 'o2' },
        { kind: 'instructor', unit: 1 },
      ),
      from: fc.integer({ min: 0, max: 120 }),
      to: fc.integer({ min: 121, max: 255 }),
    });
    fc.assert(
      fc.property(fc.array(away, { maxLength: 3 }), fc.integer({ min: 0, max: 80 }), (gone, minute) => {
        const after = gone.map((a) => ({ ...a, from: Math.max(a.from, minute) }));
        // What is under way with somebody who leaves is not fixed: it is begun again.
        const fixed = begunBefore(minute).filter(
          (f) => (f.kind === 'work' ? f.work.to : f.load.to) <= minute,
        );
        const now = { ...BUSY, notBefore: minute, fixed, away: after };
        expect(planFaults(now, replan(now, PLAN, { tries: 5, random: randomFrom(1) }).plan)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});

describe('why a piece is not in a plan', () => {
  const why = (steps: readonly PieceStep[], more: Partial<DayWanted> = {}) => {
    const day = dayOf([['a', steps]], more);
    return whyLeft(day, day.pieces[0]!);
  };
  it.each<[string, object, readonly PieceStep[], Partial<DayWanted>]>([
    ['no oven', { why: 'no_oven', way: 'hanging' }, EPOXY, { ovens: [] }],
    [
      'no oven for what lies flat',
      { why: 'no_oven', way: 'flat' },
      [{ ...cure(), way: 'flat' } as PieceStep],
      { ovens: [{ id: 'o', places: { hanging: 4, flat: 0 }, rest: 0 }] },
    ],
    ['no station', { why: 'no_station', station: 'splicer' }, SPLICE, { stations: { tester: 1 } }],
    ['nobody to watch', { why: 'no_instructor' }, SPLICE, { instructors: 0 }],
    [
      'a step longer than any part of the day',
      { why: 'step_too_long', minutes: 121, longest: 120 },
      [work('x', 121)],
      {},
    ],
    [
      'a piece longer than the day',
      { why: 'too_long', minutes: 241, hours: 240 },
      [work('x', 120), work('y', 120), work('z', 1)],
      {},
    ],
    [
      'glue that is past its time',
      { why: 'used_by', by: 9 },
      [{ ...work('glue', 10), by: 9 } as PieceStep],
      {},
    ],
    ['a day that is full', { why: 'no_room' }, SPLICE, {}],
  ])('%s', (_, said, steps, more) => expect(why(steps, more)).toEqual(said));
  it('a piece that has room after all that is planned was not planned with', () => {
    const day = dayOf([['a', [work('x', 30)]]], {
      hours: [
        { from: 0, to: 60 },
        { from: 90, to: 150 },
      ],
    });
    const piece = day.pieces[0]!;
    expect(whyLeft(day, piece, 60)).toEqual({ why: 'not_planned' });
    expect(whyLeft(day, piece, 120)).toEqual({ why: 'not_planned' });
    expect(whyLeft(day, piece, 121)).toEqual({ why: 'no_room' });
    expect(whyLeft(day, piece, 150)).toEqual({ why: 'no_room' });
  });
});

describe('what would make it fit', () => {
  const HALF = { hours: [{ from: 0, to: 60 }] };
  it('is the cheapest change that does, after those that do not', () => {
    // Eight splices of eight trainees by one splicer and one tester: twelve minutes more than an hour.
    const day = dayOf(
      Array.from(
        { length: 8 },
        (_, i) => [`t${i}`, [work('strip', 6), work('splice', 8, 'splicer')]] as const,
      ),
      { ...HALF, stations: { splicer: 1 } },
    );
    const plan = searchPlan(day, options);
    expect(plan.left).toHaveLength(2);
    const tried = changesThatFit(day, plan, options);
    expect(tried.at(-1)).toMatchObject({ change: { change: 'station', station: 'splicer' }, left: 0 });
  });
  it('is a second day where one more of everything does not help, and a shorter list where nothing does', () => {
    const own = Array.from({ length: 5 }, () => ['a', [work('long', 50)]] as const);
    const day = dayOf(own, { hours: [{ from: 0, to: 130 }] });
    const tried = changesThatFit(day, searchPlan(day, options), options);
    expect(tried.map((t) => [t.change.change, t.left])).toEqual([
      ['half_hour', 2],
      ['hour', 2],
      ['second_day', 1],
      ['shorter_list', 0],
    ]);
    expect(
      changesThatFit(dayOf([['a', SPLICE]]), searchPlan(dayOf([['a', SPLICE]]), options), options),
    ).toEqual([]);
  });
});

describe('bounds', () => {
  it('of machines that share jobs are those of the textbook', () => {
    expect(leastOnMachines([5, 5, 4, 4, 3, 3], 2)).toBe(12);
    expect(leastOnMachines([7, 7, 7], 2)).toBe(14);
    expect(leastOnMachines([9, 1, 1], 3)).toBe(9);
    expect(leastOnMachines([6, 6, 6, 6, 6], 2)).toBe(18);
  });
  it('say how far over them a plan is', () => {
    expect(overBound(BUSY, PLAN)).toBeCloseTo(PLAN.endsAt / leastEnd(BUSY).endsAt - 1, 12);
    expect(overBound(BUSY, { work: [], loads: [], left: BUSY.pieces.map((p) => p.id), endsAt: 0 })).toBe(0);
  });
  it('smaller days get more tries, within bounds', () => {
    expect([usualTries(1), usualTries(100), usualTries(200), usualTries(400)]).toEqual([2000, 360, 180, 170]);
  });
});

describe('a dispatcher', () => {
  const rule = { bias: BUSY.pieces.map(() => 0), wait: 5, most: 12 };
  it('makes plans that hold, or none', () => {
    const plan = dispatchPlan(BUSY, rule)!;
    expect(planFaults(BUSY, plan)).toEqual([]);
    expect(dispatchPlan({ ...BUSY, ovens: [] }, rule)).toBeNull();
    expect(dispatchPlan({ ...BUSY, instructors: 0 }, rule)).toBeNull();
    expect(dispatchPlan({ ...BUSY, hours: [{ from: 0, to: 20 }] }, rule)).toBeNull();
  });
  it('lets a load wait for what comes soon, and fills no load over what is said', () => {
    const day = dayOf([
      ['a', [work('p', 10), cure()]],
      ['b', [work('p', 14), cure()]],
    ]);
    const loads = (wait: number, most: number): number[][] =>
      dispatchPlan(day, { bias: [0, 0], wait, most })!.loads.map((l) => [l.from, l.members.length]);
    expect(loads(5, 12)).toEqual([[14, 2]]);
    expect(loads(0, 12)).toEqual([
      [10, 1],
      [14, 1],
    ]);
    expect(loads(5, 1)).toEqual([
      [10, 1],
      [14, 1],
    ]);
  });
});

describe('a cure', () => {
  it('is not touched before it is cool, and its oven takes the next load meanwhile', () => {
    const cool = { ...cure(20), cool: 7 } as PieceStep;
    const day = dayOf([['a', [cool, work('polish', 5)]]]);
    const plan = searchPlan(day, options);
    expect(plan.work[0]).toMatchObject({ from: 27, to: 32 });
    expect(leastEnd(day).endsAt).toBe(32);
    const early = { ...plan, work: plan.work.map((w) => ({ ...w, from: 26, to: 31 })), endsAt: 31 };
    expect(planFaults(day, early).map((f) => f.fault)).toEqual(['order']);
  });
});

describe('minutes', () => {
  const hours = [
    { from: '2026-10-25T00:00:00.000Z', to: '2026-10-25T02:30:00.000Z' },
    { from: '2026-10-25T03:00:00.000Z', to: '2026-10-25T05:00:00.000Z' },
  ];
  const kept = { ...DAY, hours, stations: { splicer: ['s1', 's2'] }, instructors: ['i1'], away: [] };
  it('count as they pass, also where the clocks of the class go back', () => {
    // Central Europe puts its clocks back at 01:00 UTC on that day: from 02:00 to 04:30 on the wall are two and a half hours all the same.
    expect(dayWanted(kept).hours).toEqual([
      { from: 0, to: 150 },
      { from: 180, to: 300 },
    ]);
    expect(dayWanted(kept)).toMatchObject({ stations: { splicer: 2 }, instructors: 1 });
    expect(instantOf(kept, 90)).toBe('2026-10-25T01:30:00.000Z');
    expect(minuteOf(kept, '2026-10-24T23:50:00.000Z')).toBe(-10);
  });
  it('of work are stretched to what pieces took, within bounds; ovens and watching stay', () => {
    const steps = [work('a', 10), cure(25), work('b', 20, null, 4)];
    const minutes = (of: number) => stretchedTo(steps, of).map((s) => s.minutes);
    expect(minutes(70)).toEqual([15, 25, 30]);
    expect(minutes(26)).toEqual([4, 25, 8]);
    expect(minutes(10_000)).toEqual([40, 25, 80]);
    expect(stretchedTo([work('a', 10, null, 9), work('b', 30)], 16).map((s) => s.minutes)).toEqual([9, 12]);
    expect(stretchedTo([cure(25)], 70)).toEqual([cure(25)]);
  });
});
