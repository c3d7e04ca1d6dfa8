import functions from '../fixtures/functions.csv?raw';
import more from '../fixtures/more.csv?raw';
import precise from '../fixtures/precise.csv?raw';
import samplesCsv from '../fixtures/samples.csv?raw';

/** Values by R 4.2 (fixtures/make-fixtures.R, make-more.R) and by mpmath (make-precise.py): a function's name, arguments, value. */
export interface Fixture {
  readonly name: string;
  readonly args: readonly number[];
  readonly value: number;
}

export const rowsOf = (csv: string): string[][] =>
  csv
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => line.split(','));

export const FIXTURES: readonly Fixture[] = [...rowsOf(functions), ...rowsOf(more), ...rowsOf(precise)].map(
  ([name, ...rest]) => ({
    name: name!,
    args: rest
      .slice(0, -1)
      .filter((a) => a !== '')
      .map(Number),
    value: Number(rest[rest.length - 1]),
  }),
);

export const named = (name: string): readonly Fixture[] => FIXTURES.filter((f) => f.name === name);
export const valueOf = (name: string, ...args: number[]): number =>
  FIXTURES.find((f) => f.name === name && args.every((a, i) => f.args[i] === a))!.value;

export const sampleOf = (name: string): number[] =>
  rowsOf(samplesCsv)
    .filter(([sample]) => sample === name)
    .map(([, value]) => Number(value));

/** How far a value lies off another, as a share of it; of 0 as it is. */
export const offBy = (value: number, wanted: number): number =>
  value === wanted ? 0 : Math.abs(value - wanted) / (Math.abs(wanted) || 1);

/** The largest of them over all fixtures of a name, by what `f` makes of the arguments. */
export const worstOf = (name: string, f: (...args: number[]) => number): number =>
  Math.max(...named(name).map(({ args, value }) => offBy(f(...args), value)));
