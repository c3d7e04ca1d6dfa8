import { applyPractice, DEFAULT_SCORING, type LossReference, score } from '@clear-mark/core';
import { makeDemo, PRACTICE } from '@clear-mark/demo';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { type Measured, medianOf } from './measured.ts';

/** As the demo class scores it. */
const SHEET = applyPractice(LC_WEDGE_LOCATOR, PRACTICE);

const ROUNDS = 60;
const CALLS = 100;

/** `score()` of a full attempt against JSON.parse of the same attempt's entries. */
export function benchScore(): Measured {
  const data = makeDemo({ seed: 7, story: true, now: new Date(), sheet: SHEET });
  const criteria = SHEET.steps.flatMap((s) => s.criteria).length;
  const attempt = data.attempts.find((a) => a.sign !== null && a.entries.length > criteria)!;
  const references: LossReference[] = data.references.map((r) => ({
    ...r,
    method: 'single_cord',
    showsNegative: false,
    rereadDbm: null,
    voidReason: null,
  }));
  const used = attempt.entries.flatMap((e) =>
    e.value?.kind === 'loss'
      ? references.filter((r) => r.id === (e.value as { referenceId: string }).referenceId)
      : [],
  );
  const context = { ...DEFAULT_SCORING, references: used, final: true };
  const text = JSON.stringify(attempt.entries);
  const time = (act: () => unknown): number => {
    const from = process.hrtime.bigint();
    for (let i = 0; i < CALLS; i++) act();
    return Number(process.hrtime.bigint() - from) / CALLS / 1000;
  };
  const pairs = Array.from({ length: ROUNDS }, () => ({
    parse: time(() => JSON.parse(text)),
    score: time(() => score(SHEET, attempt.entries, context)),
  })).slice(ROUNDS / 3);
  return {
    name: 'score() of a full attempt / JSON.parse of its entries',
    ratio: medianOf(pairs.map((p) => p.score / p.parse)),
    most: 3,
    unit: 'times',
    detail: `${attempt.entries.length} entries, ${text.length} bytes; median score ${medianOf(pairs.map((p) => p.score)).toFixed(0)} us, parse ${medianOf(pairs.map((p) => p.parse)).toFixed(0)} us`,
  };
}
