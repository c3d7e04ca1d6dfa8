import type { AttemptListFilter, ResultFilter } from '@clear-mark/contract';
import { DIRECTION_WORDS, skillWords, VERDICT_WORDS } from '@clear-mark/words';
import { dayText } from './day-range.model.ts';

const RESULT: Readonly<Record<string, string>> = {
  ...VERDICT_WORDS,
  passed: 'passed or marginally passed',
  failed: 'failed',
  judged: 'with a verdict',
};

/** One thing that a list is narrowed to: its words, and the choices of the address that go with it. */
export interface FilterChip {
  readonly keys: readonly string[];
  readonly words: string;
}

/** Names of what a filter holds as ids; null where they are not known (yet). */
export interface FilterNames {
  readonly trainee: string | null;
  readonly thing: string | null;
  readonly criterion: string | null;
  readonly method?: string | null;
  readonly instructor?: string | null;
}
type Filter = AttemptListFilter & Pick<ResultFilter, 'group'>;

const chip = (words: string, ...keys: string[]): FilterChip => ({ keys, words });

/** What a list or its results are narrowed to, one chip each, in the order in which it is said. */
export function filterChips(filter: Filter, names: FilterNames): FilterChip[] {
  const chips: FilterChip[] = [];
  if (filter.search) chips.push(chip(`“${filter.search}”`, 'search'));
  if (filter.skill !== undefined) chips.push(chip(skillWords(filter.skill), 'skill'));
  if (filter.wavelength !== undefined) {
    const range =
      filter.lossFrom !== undefined && filter.lossTo !== undefined
        ? ` from ${filter.lossFrom.toFixed(2)} to ${filter.lossTo.toFixed(2)} dB`
        : filter.lossFrom !== undefined
          ? ` of ${filter.lossFrom.toFixed(2)} dB and more`
          : '';
    const way = filter.direction === undefined ? '' : ` ${DIRECTION_WORDS[filter.direction]}`;
    const words = `reading at ${filter.wavelength} nm${way}${range}`;
    chips.push(chip(words, 'wavelength', 'direction', 'lossFrom', 'lossTo'));
  }
  if (filter.verdict !== undefined) chips.push(chip(RESULT[filter.verdict]!.toLowerCase(), 'verdict'));
  if (filter.criterion !== undefined) {
    chips.push(chip(`failed: ${names.criterion ?? filter.criterion}`, 'criterion', 'criterionLabel'));
  }
  if (filter.firstOnly === 'yes') chips.push(chip('each trainee’s first', 'firstOnly'));
  if (filter.nth !== undefined) chips.push(chip(`each trainee’s attempt ${filter.nth}`, 'nth'));
  if (filter.last !== undefined) chips.push(chip(`the last ${filter.last}`, 'last'));
  if (filter.trainee !== undefined) chips.push(chip(names.trainee ?? 'one trainee', 'trainee'));
  if (filter.group !== undefined) chips.push(chip(`group ${filter.group}`, 'group'));
  if (filter.method !== undefined) chips.push(chip(names.method ?? 'one method', 'method'));
  if (filter.thing !== undefined) chips.push(chip(names.thing ?? 'one piece of equipment', 'thing'));
  if (filter.instructor !== undefined) {
    chips.push(chip(`signed by ${names.instructor ?? 'one instructor'}`, 'instructor'));
  }
  if (filter.from !== undefined || filter.to !== undefined) {
    chips.push(chip(daysWords(filter.from, filter.to), 'from', 'to'));
  }
  return chips;
}

function daysWords(from: string | undefined, to: string | undefined): string {
  if (from !== undefined && from === to) return dayText(from);
  return `${from === undefined ? 'start' : dayText(from)} to ${to === undefined ? 'now' : dayText(to)}`;
}
