import {
  type DayWanted,
  firstCome,
  leastEnd,
  type PieceStep,
  planFaults,
  replan,
  searchPlan,
  usualTries,
} from '@clear-mark/core';
import { rngFrom } from '@clear-mark/sim';
import { type Measured, medianOf } from './measured.ts';

const work = (name: string, minutes: number, station: string | null = null, watched = 0): PieceStep => ({
  kind: 'work',
  name,
  minutes,
  station,
  watched,
});
const cure = (minutes: number, way: 'hanging' | 'flat'): PieceStep => ({
  kind: 'cure',
  name: 'oven',
  minutes,
  schedule: `${minutes} min`,
  way,
});
/** Kinds of pieces as classes make them: an epoxy connector, a splice, an array connector, a prepared end. */
const KINDS: readonly (readonly PieceStep[])[] = [
  [
    work('prepare', 14, null, 2),
    cure(25, 'hanging'),
    work('cool', 5),
    work('polish', 9),
    work('inspect', 3, 'scope', 1),
    work('loss', 4, 'tester'),
  ],
  [
    work('strip', 6, null, 1),
    work('cleave', 3, null, 1),
    work('splice', 5, 'splicer', 1),
    work('test', 4, 'tester'),
  ],
  [work('prepare', 12, null, 2), cure(40, 'flat'), work('polish', 12), work('inspect', 5, 'scope', 1)],
  [work('strip', 8, null, 2), work('inspect', 3, 'scope', 1)],
];

/** 6 to 24 trainees, 1 to 3 ovens, 2 to 4 splicers, 20 to 200 pieces (or as many as are said), two parts of a day. */
export function generatedDay(seed: number, pieces: number | null = null): DayWanted {
  const rng = rngFrom(seed);
  const upTo = (least: number, most: number): number => least + Math.floor(rng() * (most - least + 1));
  const trainees = upTo(6, 24);
  const count = pieces ?? upTo(20, 200);
  return {
    hours: [
      { from: 0, to: 240 },
      { from: 285, to: 1500 },
    ],
    stations: { splicer: upTo(2, 4), scope: 2, tester: 2 },
    instructors: upTo(1, 2),
    ovens: Array.from({ length: upTo(1, 3) }, (_, k) => ({
      id: `o${k}`,
      places: { hanging: 12, flat: 4 },
      rest: 5,
    })),
    pieces: Array.from({ length: count }, (_, k) => ({
      id: `p${k}`,
      traineeId: `t${k % trainees}`,
      steps: KINDS[Math.floor(rng() * KINDS.length)]!,
    })),
  };
}

const FIRST_SEED = 100;
const BOUND_DAYS = 60;
const TIMED_DAYS = 9;
const searched = (day: DayWanted, seed: number) =>
  searchPlan(day, { tries: usualTries(day.pieces.length), random: rngFrom(seed) });

/** How much later than the bound generated days end on average; none with a fault, none later than first come. */
export function benchDayBound(): Measured {
  let sum = 0;
  let bad = 0;
  for (let seed = FIRST_SEED; seed < FIRST_SEED + BOUND_DAYS; seed++) {
    const day = generatedDay(seed);
    const plan = searched(day, seed);
    const plain = firstCome(day);
    if (planFaults(day, plan).length > 0 || plan.left.length > 0 || plan.endsAt > plain.endsAt) bad += 1;
    sum += plan.endsAt / leastEnd(day).endsAt;
  }
  return {
    name: 'the end of a planned day / what no plan can beat',
    ratio: bad > 0 ? Infinity : sum / BOUND_DAYS,
    most: 1.1,
    unit: 'times',
    detail: `${(sum / BOUND_DAYS).toFixed(4)}, mean of ${BOUND_DAYS} generated days; ${bad} with a fault, left out, or later than first come`,
  };
}

/** Planning 200 pieces against one plan of first come. */
export function benchDayPlan(): Measured {
  return against(
    '200 pieces planned / first come, first served',
    200,
    (day, seed) => () => searched(day, seed),
  );
}

/** Planning again from the second hour on, a splicer broken, against one plan of first come. */
export function benchDayReplan(): Measured {
  return against('200 pieces planned again / first come, first served', 50, (day, seed) => {
    const before = searched(day, seed);
    const NOW = 60;
    const now: DayWanted = {
      ...day,
      notBefore: NOW,
      fixed: [
        ...before.work.filter((w) => w.to <= NOW).map((w) => ({ kind: 'work', work: w }) as const),
        ...before.loads.filter((l) => l.from < NOW).map((load) => ({ kind: 'load', load }) as const),
      ],
      away: [{ of: { kind: 'station', id: 'splicer', unit: 1 }, from: NOW, to: 1500 }],
    };
    return () => replan(now, before, { tries: 60, random: rngFrom(seed) }).plan;
  });
}

function against(
  name: string,
  most: number,
  actOf: (day: DayWanted, seed: number) => () => unknown,
): Measured {
  const ratios: number[] = [];
  for (let seed = FIRST_SEED; seed < FIRST_SEED + TIMED_DAYS; seed++) {
    const day = generatedDay(seed, 200);
    const act = actOf(day, seed);
    const plain = (): unknown => firstCome(day);
    act();
    const timeOf = (run: () => unknown, rounds: number): number =>
      medianOf(
        Array.from({ length: rounds }, () => {
          const began = performance.now();
          run();
          return performance.now() - began;
        }),
      );
    ratios.push(timeOf(act, 3) / timeOf(plain, 15));
  }
  return {
    name,
    ratio: medianOf(ratios),
    most,
    unit: 'times',
    detail: `median of ${TIMED_DAYS} generated days, ${Math.min(...ratios).toFixed(0)} to ${Math.max(...ratios).toFixed(0)}`,
  };
}
