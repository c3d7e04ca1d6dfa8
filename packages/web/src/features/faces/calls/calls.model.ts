import type { CallsResult, Kappa, Rate } from '@clear-mark/core';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** A rate with its count and interval: nothing bare that rests on few. */
export function rateWords(rate: Rate): string {
  if (rate.kind === 'none') return 'none to tell from';
  return `${rate.k} of ${rate.n}, ${percent(rate.share)} (${percent(rate.low)} to ${percent(rate.high)})`;
}
export function kappaWords(kappa: Kappa): string {
  if (kappa.kind === 'none') return 'not to be told: only one answer was given';
  return `${kappa.kappa.toFixed(2)} (${kappa.low.toFixed(2)} to ${kappa.high.toFixed(2)})`;
}

/** What matters first, in two sentences at most. */
export function resultSentence(result: CallsResult): string {
  const { misses, falseAlarms, unanswered, n } = result;
  if (n === 0) return 'No face was called.';
  const said: string[] = [];
  if (misses === 0 && falseAlarms === 0) said.push(`All ${n} were called as the reference does.`);
  else {
    const parts = [
      ...(misses > 0 ? [`${misses} bad ${misses === 1 ? 'face was' : 'faces were'} called good`] : []),
      ...(falseAlarms > 0
        ? [`${falseAlarms} good ${falseAlarms === 1 ? 'one was' : 'ones were'} called bad`]
        : []),
    ];
    const first = parts.join(', ');
    said.push(`${first[0]!.toUpperCase()}${first.slice(1)}.`);
  }
  if (unanswered > 0) said.push(`${unanswered} without a call.`);
  return said.join(' ');
}

/** A kept picture as a series may take it. */
export interface Choosable {
  readonly id: string;
  readonly verdict: 'pass' | 'fail' | null;
  readonly chance: number | null;
}
/**
 * The pictures whose grade is least sure, so that the eye is tested where it matters: nearest to an even chance first, as
 * many good ones as bad ones where there are. What has no verdict or no chance is left out.
 */
export function nearestToLimit(faces: readonly Choosable[], most: number): string[] {
  const bySure = faces
    .filter((f) => f.verdict !== null && f.chance !== null)
    .sort((a, b) => Math.abs(a.chance! - 0.5) - Math.abs(b.chance! - 0.5));
  const bad = bySure.filter((f) => f.verdict === 'fail');
  const good = bySure.filter((f) => f.verdict === 'pass');
  const half = Math.min(bad.length, good.length, Math.floor(most / 2));
  return [...bad.slice(0, half), ...good.slice(0, half)].map((f) => f.id);
}

/** Faces that are wanted for a series of a size: both kinds need two at least. */
export function choiceProblem(verdicts: readonly ('pass' | 'fail' | null)[]): string | null {
  if (verdicts.length < 4) return 'Choose four pictures at least.';
  const bad = verdicts.filter((v) => v === 'fail').length;
  const good = verdicts.filter((v) => v === 'pass').length;
  if (bad < 2 || good < 2) return 'A series needs two good faces and two bad ones at least.';
  return null;
}
