import { instantOf, type PlanFault } from '@clear-mark/core';
import type { DayPlanBody } from '@clear-mark/contract';

/** What a block on the board stands for: a step at a bench, its time at a station, a load in an oven. */
export interface Block {
  readonly key: string;
  readonly pieceId: string;
  readonly step: number;
  readonly from: number;
  readonly to: number;
  readonly label: string;
  readonly title: string;
  readonly kind: 'work' | 'cure' | 'load';
  readonly station: string | null;
  readonly isLocked: boolean;
  readonly isWrong: boolean;
  readonly isMoved: boolean;
}
export interface BoardRow {
  readonly key: string;
  readonly label: string;
  readonly group: 'trainee' | 'oven' | 'station';
  readonly blocks: readonly Block[];
}
export interface BoardNames {
  readonly nameOf: (traineeId: string) => string;
  readonly shortOf: (traineeId: string) => string;
  readonly labelOf: (thingId: string) => string;
  readonly titleOf: (versionId: string) => string;
}

/** Steps that do not hold, by piece and step. */
export function wrongSteps(day: DayPlanBody, faults: readonly PlanFault[]): ReadonlySet<string> {
  const wrong = new Set<string>();
  for (const f of faults) {
    if ('pieceId' in f) wrong.add(`${f.pieceId} ${f.step}`);
    else if ('at' in f) {
      for (const w of day.plan?.work ?? []) if (w.from <= f.at && f.at < w.to) addIfOf(day, wrong, w, f);
      for (const l of day.plan?.loads ?? []) {
        const isIt =
          'ovenId' in f
            ? f.ovenId === l.ovenId && f.at === l.from
            : f.of === `oven ${l.ovenId}` && f.at >= l.from;
        if (isIt) for (const m of l.members) wrong.add(`${m.pieceId} ${m.step}`);
      }
    }
  }
  return wrong;
}
function addIfOf(
  day: DayPlanBody,
  wrong: Set<string>,
  w: NonNullable<DayPlanBody['plan']>['work'][number],
  f: Extract<PlanFault, { readonly at: number }>,
): void {
  if (!('of' in f)) return;
  const piece = day.pieces.find((p) => p.id === w.pieceId);
  const step = piece?.steps[w.step];
  const names = [
    `trainee ${piece?.traineeId}`,
    `instructor ${w.instructor}`,
    step?.kind === 'work' ? `${step.station} ${w.unit}` : '',
  ];
  if (names.includes(f.of)) wrong.add(`${w.pieceId} ${w.step}`);
}

/** The board: a row a trainee, then ovens, then stations. */
export function boardRows(
  day: DayPlanBody,
  names: BoardNames,
  marks: { readonly wrong: ReadonlySet<string>; readonly moved: ReadonlySet<string> },
): BoardRow[] {
  const { plan } = day;
  const pieceOf = new Map(day.pieces.map((p) => [p.id, p]));
  const locked = new Set(day.locks.map((l) => `${l.pieceId} ${l.step}`));
  const block = (
    pieceId: string,
    step: number,
    span: { from: number; to: number },
    kind: Block['kind'],
  ): Block => {
    const piece = pieceOf.get(pieceId)!;
    const wanted = piece.steps[step]!;
    const id = `${pieceId} ${step}`;
    return {
      key: `${kind} ${id}`,
      pieceId,
      step,
      from: span.from,
      to: span.to,
      label: wanted.name,
      title: `${names.nameOf(piece.traineeId)}: ${names.titleOf(piece.methodVersionId)}, ${wanted.name}`,
      kind,
      station: wanted.kind === 'work' ? wanted.station : null,
      isLocked: locked.has(id),
      isWrong: marks.wrong.has(id),
      isMoved: marks.moved.has(id),
    };
  };
  const known = (plan?.work ?? []).filter((w) => pieceOf.has(w.pieceId));
  const members = (plan?.loads ?? []).flatMap((l) =>
    l.members
      .filter((m) => pieceOf.has(m.pieceId))
      .map((m) => ({ ...m, from: l.from, to: l.to, ovenId: l.ovenId })),
  );
  const trainees = [...new Set(day.pieces.map((p) => p.traineeId))];
  const rows = trainees.map((id): BoardRow => ({
    key: id,
    label: names.nameOf(id),
    group: 'trainee',
    blocks: [
      ...members
        .filter((m) => pieceOf.get(m.pieceId)!.traineeId === id)
        .map((m) => block(m.pieceId, m.step, m, 'cure')),
      ...known
        .filter((w) => pieceOf.get(w.pieceId)!.traineeId === id)
        .map((w) => block(w.pieceId, w.step, w, 'work')),
    ],
  }));
  const ovens = day.ovens.map((oven): BoardRow => ({
    key: oven.id,
    label: names.labelOf(oven.id),
    group: 'oven',
    blocks: (plan?.loads ?? [])
      .filter((l) => l.ovenId === oven.id && pieceOf.has(l.members[0]?.pieceId ?? ''))
      .map((l) => ({
        ...block(l.members[0]!.pieceId, l.members[0]!.step, l, 'load'),
        label: `${l.members.length} × ${l.schedule}`,
        title: `${l.schedule}, ${l.way}: ${l.members.map((m) => names.nameOf(pieceOf.get(m.pieceId)?.traineeId ?? '')).join(', ')}`,
      })),
  }));
  const stations = Object.entries(day.stations).flatMap(([kind, ids]) =>
    ids.map((id, i): BoardRow => ({
      key: id,
      label: names.labelOf(id),
      group: 'station',
      blocks: known
        .filter((w) => {
          const step = pieceOf.get(w.pieceId)!.steps[w.step];
          return step?.kind === 'work' && step.station === kind && w.unit === i + 1;
        })
        .map((w) => {
          const own = block(w.pieceId, w.step, w, 'work');
          return {
            ...own,
            key: `station ${own.key}`,
            label: names.shortOf(pieceOf.get(w.pieceId)!.traineeId),
          };
        }),
    })),
  );
  return [...rows, ...ovens, ...stations.filter((r) => r.blocks.length > 0)];
}

/** A step, or the whole load that it is in, begun at another minute, and locked there. */
export function movedTo(
  day: DayPlanBody,
  block: Pick<Block, 'pieceId' | 'step' | 'kind'>,
  from: number,
): DayPlanBody {
  const { plan } = day;
  if (!plan) return day;
  const isIt = (m: { pieceId: string; step: number }): boolean =>
    m.pieceId === block.pieceId && m.step === block.step;
  const work = plan.work.map((w) => (isIt(w) ? { ...w, from, to: from + w.to - w.from } : w));
  const load = plan.loads.find((l) => l.members.some(isIt));
  const loads = plan.loads.map((l) => (l === load ? { ...l, from, to: from + l.to - l.from } : l));
  const ends = [...work, ...loads].map((s) => s.to);
  const kept = day.locks.filter((l) => !isIt(l));
  const { pieceId, step } = block;
  return {
    ...day,
    plan: { ...plan, work, loads, endsAt: Math.max(0, ...ends) },
    locks: [...kept, { pieceId, step }],
  };
}

/** A lock put on a step or taken off it. */
export function lockTurned(
  day: DayPlanBody,
  { pieceId, step }: Pick<Block, 'pieceId' | 'step'>,
): DayPlanBody {
  const isIt = (l: { pieceId: string; step: number }): boolean => l.pieceId === pieceId && l.step === step;
  const locks = day.locks.some(isIt) ? day.locks.filter((l) => !isIt(l)) : [...day.locks, { pieceId, step }];
  return { ...day, locks };
}

/** Full hours of the clock within a day, as minutes of it with their instants. */
export function hourMarks(
  day: Pick<DayPlanBody, 'hours'>,
): { readonly minute: number; readonly at: string }[] {
  const began = Date.parse(day.hours[0]!.from);
  const ends = Date.parse(day.hours.at(-1)!.to);
  const marks: { minute: number; at: string }[] = [];
  const HALF = 1_800_000;
  for (let at = Math.ceil(began / HALF) * HALF; at <= ends; at += HALF) {
    const minute = Math.round((at - began) / 60_000);
    marks.push({ minute, at: instantOf(day, minute) });
  }
  return marks;
}
