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
