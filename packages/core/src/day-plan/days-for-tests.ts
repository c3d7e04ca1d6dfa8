import type { DayWanted, PieceStep } from './index.ts';

export const work = (
  name: string,
  minutes: number,
  station: string | null = null,
  watched = 0,
): PieceStep => ({
  kind: 'work',
  name,
  minutes,
  station,
  watched,
});
export const cure = (minutes = 25, schedule = 'epoxy'): PieceStep => ({
  kind: 'cure',
  name: 'oven',
  minutes,
  schedule,
  way: 'hanging',
});
export const EPOXY: readonly PieceStep[] = [
  work('prepare', 10),
  cure(),
  work('polish', 8),
  work('inspect', 3, 'scope', 1),
];
export const SPLICE: readonly PieceStep[] = [
  work('strip', 6),
  work('splice', 5, 'splicer', 2),
  work('test', 4, 'tester'),
];

/** Four hours with a break, two ovens of four, two splicers, one scope, one tester, one instructor. */
export const DAY: DayWanted = {
  hours: [
    { from: 0, to: 120 },
    { from: 135, to: 255 },
  ],
  stations: { splicer: 2, scope: 1, tester: 1 },
  ovens: [
    { id: 'o1', places: { hanging: 4, flat: 2 }, rest: 5 },
    { id: 'o2', places: { hanging: 4, flat: 2 }, rest: 5 },
  ],
  instructors: 1,
  pieces: [],
};
export const dayOf = (
  pieces: readonly (readonly [trainee: string, steps: readonly PieceStep[]])[],
  more: Partial<DayWanted> = {},
): DayWanted => ({
  ...DAY,
  ...more,
  pieces: pieces.map(([traineeId, steps], i) => ({ id: `p${i + 1}`, traineeId, steps })),
});
/** Mulberry32: the same numbers from the same seed. */
export function randomFrom(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
