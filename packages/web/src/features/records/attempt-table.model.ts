import type { AttemptListFilter } from '@clear-mark/contract';
import { DIRECTION_WORDS, SKILL_WORDS, VERDICT_WORDS } from '@clear-mark/words';

const RESULT: Readonly<Record<string, string>> = {
  ...VERDICT_WORDS,
  passed: 'passed or marginally passed',
  failed: 'failed',
  judged: 'with a verdict',
};

interface Names {
  readonly trainee: string | null;
  readonly thing: string | null;
  readonly criterion: string | null;
}

/** What a list of attempts shows, in words. */
export function filterWords(filter: AttemptListFilter, names: Names): string {
  const parts: string[] = [];
  if (filter.skill !== undefined) parts.push(SKILL_WORDS[filter.skill]);
  if (filter.wavelength !== undefined) {
    const range =
      filter.lossFrom !== undefined && filter.lossTo !== undefined
        ? ` from ${filter.lossFrom.toFixed(2)} to ${filter.lossTo.toFixed(2)} dB`
        : filter.lossFrom !== undefined
          ? ` of ${filter.lossFrom.toFixed(2)} dB and more`
          : '';
    const way = filter.direction === undefined ? '' : ` ${DIRECTION_WORDS[filter.direction]}`;
    parts.push(`reading at ${filter.wavelength} nm${way}${range}`);
  }
  if (filter.verdict !== undefined) parts.push(RESULT[filter.verdict]!.toLowerCase());
  if (filter.criterion !== undefined) parts.push(`failed: ${names.criterion ?? filter.criterion}`);
  if (filter.firstOnly === 'yes') parts.push('each trainee’s first');
  if (filter.nth !== undefined) parts.push(`each trainee’s attempt ${filter.nth}`);
  if (filter.last !== undefined) parts.push(`the last ${filter.last}`);
  if (filter.trainee !== undefined) parts.push(names.trainee ?? 'one trainee');
  if (filter.thing !== undefined) parts.push(names.thing ?? 'one thing used');
  if (filter.from !== undefined || filter.to !== undefined) {
    parts.push(
      filter.from === filter.to ? filter.from! : `${filter.from ?? 'start'} to ${filter.to ?? 'now'}`,
    );
  }
  return parts.length === 0 ? 'All signed attempts' : parts.join(' · ');
}
