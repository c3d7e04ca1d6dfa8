import type { GreyImage } from '@clear-mark/core';

/** One benchmark: a ratio against a yardstick measured in the same run, and the most it should be. */
export interface Measured {
  readonly name: string;
  readonly ratio: number;
  readonly most: number;
  readonly unit: 'times' | 'kB';
  readonly detail: string;
  /** Why there is no yardstick in this run; the ratio then says nothing. */
  readonly notMeasured?: string;
}

export function medianOf(values: readonly number[]): number {
  const rising = [...values].sort((a, b) => a - b);
  return rising[Math.floor(rising.length / 2)]!;
}

/** Milliseconds that an act takes. */
export const timed = (act: () => unknown): number => {
  const from = process.hrtime.bigint();
  act();
  return Number(process.hrtime.bigint() - from) / 1e6;
};

/** One plain pass over the pixels of a picture: the yardstick of what measures it. */
export function sumOf({ data }: GreyImage): number {
  let sum = 0;
  for (let i = 0; i < data.length; i++) sum += data[i]!;
  return sum;
}
