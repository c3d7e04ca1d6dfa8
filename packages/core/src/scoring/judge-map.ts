import { explainMap, type MapFinding } from '../polarity/index.ts';
import type { MapCriterion } from '../sheet/index.ts';
import type { Judgement } from './judgement.ts';
import type { Reason } from './types.ts';

/**
 * Judges a walked map against the trunk that the method asks for: open until every port was walked, then pass when
 * each near port lit where it should, else fail with the smallest explanation.
 */
export function judgeMap(criterion: MapCriterion, far: readonly (number | null)[]): Judgement {
  const open = far.filter((port) => port === null).length;
  if (open > 0) {
    const params = { count: open, ports: criterion.ports };
    return { state: 'open', verdict: 'incomplete', earned: 0, reasons: [{ code: 'map.open', params }] };
  }
  const findings = explainMap(far as readonly number[], criterion.trunk);
  if (findings.length === 0) return { state: 'scored', verdict: 'pass', earned: criterion.points };
  const reasons = findings.map((f) => reasonOf(f, criterion.trunk));
  return { state: 'scored', verdict: 'fail', earned: 0, reasons };
}

function reasonOf(finding: MapFinding, wanted: string): Reason {
  switch (finding.kind) {
    case 'wrong_type':
      return { code: 'map.wrong_type', params: { types: finding.types.join(' '), wanted } };
    case 'crossed_pair':
      return { code: 'map.crossed_pair', params: { a: finding.ports[0], b: finding.ports[1] } };
    case 'crossed_fibers':
      return { code: 'map.crossed_fibers', params: { ports: finding.ports.join(' ') } };
    case 'no_light':
      return { code: 'map.no_light', params: { ports: finding.ports.join(' ') } };
    default: {
      const never: never = finding;
      return never;
    }
  }
}
