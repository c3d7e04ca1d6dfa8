import type { FeatureRule, SizeBand } from '@clear-mark/core';

function bandWords(band: SizeBand): string {
  const many = band.count === null ? 'any number' : String(band.count);
  const upTo = band.under ? `under ${band.toUm}` : `to ${band.toUm}`;
  return band.fromUm === 0
    ? `${many} ${band.under ? '' : 'up '}${upTo} µm`
    : `${many} from ${band.fromUm} ${upTo} µm`;
}

/** A zone's rule in words; sizes in micrometres. */
export function zoneRuleWords(rule: FeatureRule): string {
  if (rule === 'no_limit') return 'no limit';
  return rule.length === 0 ? 'none' : `${rule.map(bandWords).join(', ')}, none larger`;
}
