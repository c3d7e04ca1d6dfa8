import type { WhatIfCounts, WhatIfSetting } from '@clear-mark/contract';
import { canMove, type Criterion, type MethodSheet, readTyped, stepsWithOptions } from '@clear-mark/core';
import { ruleWords, UNIT_WORDS } from '@clear-mark/words';

/** Over this many attempts the server works it out. */
export const MOST_HERE = 20_000;

export interface MovableLimit {
  readonly criterionId: string;
  readonly label: string;
  readonly unit: string;
  readonly min: number | null;
  readonly max: number | null;
}

/** The limits of a sheet that can be moved, in the order of its steps. */
export function movableLimits(sheet: MethodSheet): MovableLimit[] {
  return stepsWithOptions(sheet).flatMap((step) =>
    step.criteria.filter(canMove).map((c) => ({
      criterionId: c.id,
      label: `${step.title}: ${c.label.toLowerCase()}`,
      ...endsOf(c),
    })),
  );
}

function endsOf(c: Criterion): Pick<MovableLimit, 'unit' | 'min' | 'max'> {
  if (c.kind === 'loss') return { unit: 'dB', min: null, max: c.rules.limitDb?.db ?? null };
  if (!('band' in c)) return { unit: '', min: null, max: null };
  const unit = c.kind === 'timed' ? 's' : c.kind === 'count' ? c.noun : UNIT_WORDS[c.unit];
  const end = (limit: { value: string } | undefined): number | null => (limit ? Number(limit.value) : null);
  return { unit, min: end(c.band.lower), max: end(c.band.upper) };
}

/** A number as typed, with a point or a comma; null for nothing, NaN for what is none. */
export function typedNumber(text: string): number | null {
  const typed = readTyped(text);
  if (typed.kind === 'empty') return null;
  return typed.kind === 'number' ? typed.value : NaN;
}

/** A setting in words, or that it moves nothing. */
export function settingWords(setting: WhatIfSetting, limits: readonly MovableLimit[]): string {
  const parts: string[] = [];
  if (setting.passMark !== null) parts.push(`pass mark ${setting.passMark} %`);
  if (setting.limit) {
    const limit = limits.find((l) => l.criterionId === setting.limit!.criterionId);
    const { min, max } = setting.limit;
    const ends = [min === null ? '' : `from ${min}`, max === null ? '' : `to ${max}`].filter((e) => e !== '');
    parts.push(`${limit?.label ?? 'limit'} ${ends.join(' ')} ${limit?.unit ?? ''}`.trim());
  }
  if (setting.policy)
    parts.push(`${ruleWords(setting.policy)}, retraining after ${setting.policy.failsInARow} fails in a row`);
  return parts.length === 0 ? 'as it is' : parts.join(', ');
}

/** What a setting comes to, in one sentence. */
export function whatIfWords(result: WhatIfCounts): string {
  if (result.attempts === 0) return 'There is no signed attempt to score again.';
  const { changed, newlyFailed, newlyPassed, standings } = result;
  if (changed === 0 && standings.length === 0)
    return `Nothing of ${result.attempts} attempts comes out otherwise.`;
  const parts = [
    newlyFailed > 0 ? `${newlyFailed} would have failed` : '',
    newlyPassed > 0 ? `${newlyPassed} would have passed` : '',
    changed - newlyFailed - newlyPassed > 0 ? `${changed - newlyFailed - newlyPassed} change otherwise` : '',
  ].filter((p) => p !== '');
  const pieces = parts.length === 0 ? 'no verdict changes' : parts.join(', ');
  const people = standings.length === 0 ? 'no standing changes' : `${standings.length} standings change`;
  return `Of ${result.attempts} attempts ${pieces}; ${people}.`;
}
