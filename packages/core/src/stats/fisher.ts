import { DomainError } from '../domain-error.ts';

/** log k! for k = 0, 1, ...; grown when a larger table comes. */
let logFactorials = new Float64Array([0, 0]);

function logFactorial(k: number): number {
  if (k >= logFactorials.length) {
    const grown = new Float64Array(Math.max(k + 1, 2 * logFactorials.length));
    grown.set(logFactorials);
    for (let i = logFactorials.length; i < grown.length; i++) grown[i] = grown[i - 1]! + Math.log(i);
    logFactorials = grown;
  }
  return logFactorials[k]!;
}

/** Tables whose probability differs by less than this share are taken as equally likely. */
const TIE = 1e-7;

/**
 * Fisher's exact test of a 2 x 2 table of counts, two-sided: the sum of the probabilities of the tables with the
 * same margins that are no more likely than the observed one. Input: whole counts of 0 or more, rows a b and
 * c d. An empty margin gives 1: nothing can be told. Error: `stats.bad_count`.
 * Relative error under 1e-9 up to 100,000 in all. Example: 3 1 / 1 3 is 0.4857 (Fisher 1935, the tea).
 */
export function fisherExact(a: number, b: number, c: number, d: number): number {
  for (const count of [a, b, c, d]) {
    if (!Number.isInteger(count) || count < 0) throw new DomainError('stats.bad_count', { count });
  }
  const row = a + b;
  const column = a + c;
  const n = row + c + d;
  const least = Math.max(0, row + column - n);
  const most = Math.min(row, column);
  const margins =
    logFactorial(row) +
    logFactorial(n - row) +
    logFactorial(column) +
    logFactorial(n - column) -
    logFactorial(n);
  const probability = (x: number): number =>
    Math.exp(
      margins -
        logFactorial(x) -
        logFactorial(row - x) -
        logFactorial(column - x) -
        logFactorial(n - row - column + x),
    );
  const observed = probability(a) * (1 + TIE);
  let sum = 0;
  for (let x = least; x <= most; x++) {
    const p = probability(x);
    if (p <= observed) sum += p;
  }
  return Math.min(1, sum);
}
