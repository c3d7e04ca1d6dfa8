import { quantileOfSorted } from '@clear-mark/core';

/** How far values of one kind lie off the truth, and how many of them lie within twice the stated standard uncertainty. */
export class Errors {
  private readonly all: number[] = [];
  private within = 0;

  add(error: number, sd: number): void {
    this.all.push(Math.abs(error));
    if (Math.abs(error) <= 2 * sd) this.within += 1;
  }
  get count(): number {
    return this.all.length;
  }
  /** The error that such a share of them stays under. */
  at(share: number): number {
    return quantileOfSorted(
      [...this.all].sort((a, b) => a - b),
      share,
    );
  }
  /** Share of the values whose uncertainty holds. */
  get covered(): number {
    return this.within / Math.max(1, this.all.length);
  }
}

/** Share of what is true. */
export const shareOf = (list: readonly boolean[]): number => list.filter(Boolean).length / list.length;
