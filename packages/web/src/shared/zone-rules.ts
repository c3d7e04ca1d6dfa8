import type { SizeBand } from '@clear-mark/core';

/** What a table of criteria limits, as the keys of a zone's rule. */
export const RULE_KINDS = [
  { key: 'scratches', label: 'Scratches, by width' },
  { key: 'defects', label: 'Defects, by enclosing diameter' },
] as const;
export type RuleKind = (typeof RULE_KINDS)[number]['key'];

/** The bands with one more, 3 um wide, from where the last one ends. */
export function withOneMore(bands: readonly SizeBand[]): SizeBand[] {
  const from = bands[bands.length - 1]?.toUm ?? 0;
  return [...bands, { fromUm: from, toUm: from + 3, count: null }];
}
