import { describe, expect, it } from 'vitest';
import { buildPlan, type DayWanted, leastEnd, planFaults, type PieceStep, searchPlan } from './index.ts';
import { cure, dayOf, randomFrom, work } from './days-for-tests.ts';

/** A job shop as a day: each job a piece of somebody else, each machine a station of which there is one. */
function shop(text: string): DayWanted {
  const jobs = text
    .trim()
    .split('\n')
    .map((line) => line.trim().split(/\s+/).map(Number));
  const stations = Object.fromEntries(jobs[0]!.filter((_, i) => i % 2 === 0).map((m) => [`m${m}`, 1]));
  return {
    hours: [{ from: 0, to: 100_000 }],
    stations,
    ovens: [],
    instructors: 0,
    pieces: jobs.map((job, i) => ({
      id: `j${i}`,
      traineeId: `t${i}`,
      steps: Array.from({ length: job.length / 2 }, (_, k) =>
        work(`${k}`, job[2 * k + 1]!, `m${job[2 * k]}`),
      ),
    })),
  };
}

/** 6 jobs on 6 machines, optimum 55: Fisher and Thompson, in Muth and Thompson, Industrial Scheduling, 1963 (from memory). */
const FT06 = shop(`
  2 1 0 3 1 6 3 7 5 3 4 6
  1 8 2 5 4 10 5 10 0 10 3 4
  2 5 3 4 5 8 0 9 1 1 4 7
  1 5 0 5 2 5 3 3 4 8 5 9
  2 9 1 3 4 5 5 4 0 3 3 1
  1 3 3 3 5 9 0 10 4 4 2 1`);
/** 10 jobs on 5 machines, optimum 666: Lawrence, Resource constrained project scheduling, 1984, instance LA01 (from memory). */
const LA01 = shop(`
  1 21 0 53 4 95 3 55 2 34
  0 21 3 52 4 16 2 26 1 71
  3 39 4 98 1 42 2 31 0 12
  1 77 0 55 4 79 2 66 3 77
  0 83 3 34 2 64 1 19 4 37
  1 54 2 43 4 79 0 92 3 62
  3 69 4 77 1 87 2 87 0 93
  2 38 0 60 1 41 3 24 4 83
  3 17 1 49 4 25 0 44 2 98
  4 77 3 79 2 43 1 75 0 96`);

describe('published job shops', () => {
  it.each([
    ['FT06', FT06, 55, 1.06],
    ['LA01', LA01, 666, 1.06],
  ] as const)(
    '%s is planned close to its optimum, and the bound is not over it',
    (_, day, optimum, within) => {
      const plan = searchPlan(day, { tries: 2000, random: randomFrom(1) });
      expect(planFaults(day, plan)).toEqual([]);
      expect(plan.endsAt).toBeGreaterThanOrEqual(optimum);
      expect(plan.endsAt).toBeLessThanOrEqual(optimum * within);
      expect(leastEnd(day).endsAt).toBeLessThanOrEqual(optimum);
    },
  );
  it('the bound of LA01 is its optimum: one machine is never idle', () => {
    expect(leastEnd(LA01).endsAt).toBe(666);
  });
});

/**
 * One batching machine, equal times p, c places, jobs that arrive: the last loads are full and what is left over goes first; the end by that
 * rule is the least there is (Ikura and Gimple, Efficient scheduling algorithms for a single batch processing machine, Operations
 * Research Letters 5, 1986, from memory).
 */
function batchesEnd(arrivals: readonly number[], places: number, minutes: number): number {
  const rising = [...arrivals].sort((a, b) => a - b);
  const first = rising.length % places || places;
  let end = 0;
  for (let to = first; to <= rising.length; to += places) end = Math.max(end, rising[to - 1]!) + minutes;
  return end;
}

describe('one batching machine', () => {
  it.each([
    [[3, 5, 9, 14, 15, 22, 23], 3, 20],
    [[1, 2, 3, 4, 5, 6, 7, 8], 4, 10],
    [[2, 30, 31, 60, 61, 62], 2, 25],
    [[5, 6, 40, 41, 42], 4, 15],
  ] as const)(
    'arrivals %j with %i places and %i minutes end as the published rule says',
    (arrivals, places, minutes) => {
      const day = dayOf(
        arrivals.map((a, i) => [`t${i}`, [work('arrives', a), cure(minutes)]] as const),
        {
          hours: [{ from: 0, to: 1000 }],
          ovens: [{ id: 'o', places: { hanging: places, flat: 0 }, rest: 0 }],
        },
      );
      const plan = searchPlan(day, { tries: 2000, random: randomFrom(1) });
      expect([planFaults(day, plan), plan.endsAt]).toEqual([[], batchesEnd(arrivals, places, minutes)]);
    },
  );
});

/** Every order of the steps, pieces of one trainee and one kind being alike. */
function* orders(left: readonly (readonly [ids: readonly string[], steps: number])[]): Generator<string[]> {
  const counts = left.map(([ids, steps]) => ids.map(() => steps));
  const order: string[] = [];
  function* next(): Generator<string[]> {
    let any = false;
    for (let k = 0; k < left.length; k++) {
      const seen = new Set<number>();
      for (let i = 0; i < counts[k]!.length; i++) {
        const n = counts[k]![i]!;
        if (n === 0 || seen.has(n)) continue;
        seen.add(n);
        any = true;
        counts[k]![i] = n - 1;
        order.push(left[k]![0][i]!);
        yield* next();
        order.pop();
        counts[k]![i] = n;
      }
    }
    if (!any) yield [...order];
  }
  yield* next();
}

describe('days of up to eight pieces', () => {
  const SHORT: Readonly<Record<string, readonly PieceStep[]>> = {
    scope: [work('x', 7, 'scope', 2)],
    test: [work('y', 9, 'tester')],
    both: [work('x', 5, 'scope'), work('y', 4, 'tester', 1)],
    bench: [work('z', 6, null, 3)],
    oven: [work('p', 3), cure(15)],
  };
  it.each<[string, readonly (readonly [trainee: string, kind: keyof typeof SHORT, count: number])[]]>([
    [
      'eight of four kinds',
      [
        ['a', 'scope', 2],
        ['b', 'test', 2],
        ['a', 'bench', 2],
        ['b', 'scope', 2],
      ],
    ],
    [
      'seven, two of them by two stations',
      [
        ['a', 'both', 1],
        ['b', 'both', 1],
        ['a', 'bench', 3],
        ['b', 'test', 2],
      ],
    ],
    [
      'eight, two of them for the oven',
      [
        ['a', 'oven', 1],
        ['b', 'oven', 1],
        ['a', 'test', 3],
        ['b', 'scope', 3],
      ],
    ],
    [
      'six with two loads',
      [
        ['a', 'oven', 2],
        ['b', 'oven', 2],
        ['a', 'test', 1],
        ['b', 'bench', 1],
      ],
    ],
  ])('%s are as good as the best of all orders', (_, wanted) => {
    const day = dayOf(
      wanted.flatMap(([t, kind, n]) => Array.from({ length: n }, () => [t, SHORT[kind]!] as const)),
    );
    let at = 0;
    const classes = wanted.map(([, kind, n]) => {
      const ids = Array.from({ length: n }, () => `p${++at}`);
      return [ids, SHORT[kind]!.length] as const;
    });
    let best = Infinity;
    let tried = 0;
    for (const order of orders(classes)) {
      best = Math.min(best, buildPlan(day, order).endsAt);
      tried += 1;
    }
    expect(tried).toBeGreaterThan(1000);
    expect(searchPlan(day, { tries: 2000, random: randomFrom(3) }).endsAt).toBe(best);
  });
});
