import {
  type ChannelExplanation,
  explainChannel,
  type PartFault,
  type StructureFault,
} from '../polarity/index.ts';
import type { ChannelPart, MapCriterion } from '../sheet/index.ts';
import type { Judgement } from './judgement.ts';
import type { Reason } from './types.ts';

/**
 * Judges a walked map against the trunk, or the whole channel, that the method asks for: open until every port was
 * walked, then pass when each near port lit where it should, else fail with the smallest explanation.
 */
export function judgeMap(criterion: MapCriterion, far: readonly (number | null)[]): Judgement {
  const open = far.filter((port) => port === null).length;
  if (open > 0) {
    const params = { count: open, ports: criterion.ports };
    return { state: 'open', verdict: 'incomplete', earned: 0, reasons: [{ code: 'map.open', params }] };
  }
  const parts = criterion.parts ?? [{ kind: 'trunk', type: criterion.trunk }];
  const found = explainChannel({ ports: criterion.ports, parts }, far as readonly number[]);
  if (found.cost === 0) return { state: 'scored', verdict: 'pass', earned: criterion.points };
  return { state: 'scored', verdict: 'fail', earned: 0, reasons: mapReasons(found, parts) };
}

/** An explanation as reasons, what explains most first. */
export function mapReasons(found: ChannelExplanation, parts: readonly ChannelPart[]): readonly Reason[] {
  const rows = new Set<string>();
  const exchanged = found.rows.flatMap(([near, far]): Reason[] => {
    const key = [near, far].sort((a, b) => a - b).join(' ');
    if (rows.has(key)) return [];
    rows.add(key);
    return [{ code: 'map.rows_exchanged', params: { near, far } }];
  });
  return [
    ...found.structure.map((s) => structureReason(s, parts)),
    ...exchanged,
    ...found.crossed.map(({ kind, ports }): Reason =>
      kind === 'crossed_pair'
        ? { code: 'map.crossed_pair', params: { a: ports[0]!, b: ports[1]! } }
        : { code: 'map.crossed_fibers', params: { ports: ports.join(' ') } },
    ),
    ...(found.broken.length > 0
      ? [{ code: 'map.no_light', params: { ports: found.broken.join(' ') } } as const]
      : []),
    ...found.darkRows.map((row): Reason => ({ code: 'map.row_dark', params: { row } })),
  ];
}

/** A lone trunk of another type by its own code; faults of several parts as options that nobody can tell apart. */
function structureReason({ row, options }: StructureFault, parts: readonly ChannelPart[]): Reason {
  const only = parts.length === 1 ? parts[0] : undefined;
  if (only?.kind === 'trunk') {
    const types = options.flatMap((o) => (o[0]?.kind === 'trunk_type' ? [o[0].type] : []));
    return { code: 'map.wrong_type', params: { types: types.join(' '), wanted: only.type } };
  }
  const text = options.map((faults) => faults.map(faultText).join('+')).join('|');
  return { code: 'map.parts', params: { options: text, row: row ?? 0 } };
}

/** Part, counted from 1, and what is wrong with it, as `words` reads it: `2:trunk_type:B`. */
const faultText = (fault: PartFault): string =>
  [fault.part + 1, fault.kind, ...(fault.kind === 'trunk_type' ? [fault.type] : [])].join(':');
