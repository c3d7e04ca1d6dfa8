import type { FeatureRule, SizeBand } from '@clear-mark/core';

/** What a table of criteria limits, as the keys of a zone's rule. */
export const RULE_KINDS = [
  { key: 'scratches', label: 'Scratches, by width' },
  { key: 'defects', label: 'Defects, by enclosing diameter' },
] as const;
export type RuleKind = (typeof RULE_KINDS)[number]['key'];

function bandWords(band: SizeBand): string {
  const many = band.count === null ? 'any number' : String(band.count);
  const upTo = band.under ? `under ${band.toUm}` : `to ${band.toUm}`;
  return band.fromUm === 0
    ? `${many} ${band.under ? '' : 'up '}${upTo} µm`
    : `${many} from ${band.fromUm} ${upTo} µm`;
}

/** A zone's rule in words; sizes in micrometres. */
export function ruleWords(rule: FeatureRule): string {
  if (rule === 'no_limit') return 'no limit';
  return rule.length === 0 ? 'none' : `${rule.map(bandWords).join(', ')}, none larger`;
}

/** The bands with one more, 3 um wide, from where the last one ends. */
export function withOneMore(bands: readonly SizeBand[]): SizeBand[] {
  const from = bands[bands.length - 1]?.toUm ?? 0;
  return [...bands, { fromUm: from, toUm: from + 3, count: null }];
}
