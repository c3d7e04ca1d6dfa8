import { instantOf, type PlanFault } from '@clear-mark/core';
import type { DayPlanBody } from '@clear-mark/contract';
import { withEnd } from './day-draft.model.ts';

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
  /** Where a trainee works; absent for others. */
  readonly bench?: string;
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
  w: Plan['work'][number],
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
  const maker = new BlockMaker(day, names, marks);
  return [
    ...traineeRows(day, names, maker),
    ...ovenRows(day, names, maker),
    ...stationRows(day, names, maker),
  ];
}

type Plan = NonNullable<DayPlanBody['plan']>;
class BlockMaker {
  readonly pieces: ReadonlyMap<string, DayPlanBody['pieces'][number]>;
  readonly work: Plan['work'];
  readonly loads: Plan['loads'];
  private readonly locked: ReadonlySet<string>;

  constructor(
    day: DayPlanBody,
    private readonly names: BoardNames,
    private readonly marks: { readonly wrong: ReadonlySet<string>; readonly moved: ReadonlySet<string> },
  ) {
    this.pieces = new Map(day.pieces.map((p) => [p.id, p]));
    this.work = (day.plan?.work ?? []).filter((w) => this.pieces.has(w.pieceId));
    this.loads = (day.plan?.loads ?? []).filter((l) => l.members.every((m) => this.pieces.has(m.pieceId)));
    this.locked = new Set(day.locks.map((l) => `${l.pieceId} ${l.step}`));
  }
  block(pieceId: string, step: number, span: { from: number; to: number }, kind: Block['kind']): Block {
    const piece = this.pieces.get(pieceId)!;
    const wanted = piece.steps[step]!;
    const id = `${pieceId} ${step}`;
    return {
      key: `${kind} ${id}`,
      pieceId,
      step,
      from: span.from,
      to: span.to,
      label: wanted.name,
      title: `${this.names.nameOf(piece.traineeId)}: ${this.names.titleOf(piece.methodVersionId)}, ${wanted.name}`,
      kind,
      station: wanted.kind === 'work' ? wanted.station : null,
      isLocked: this.locked.has(id),
      isWrong: this.marks.wrong.has(id),
      isMoved: this.marks.moved.has(id),
    };
  }
  traineeOf(pieceId: string): string {
    return this.pieces.get(pieceId)!.traineeId;
  }
}

function traineeRows(day: DayPlanBody, names: BoardNames, maker: BlockMaker): BoardRow[] {
  return [...new Set(day.pieces.map((p) => p.traineeId))].map((id): BoardRow => {
    const cures = maker.loads.flatMap((l) =>
      l.members
        .filter((m) => maker.traineeOf(m.pieceId) === id)
        .map((m) => maker.block(m.pieceId, m.step, l, 'cure')),
    );
    const work = maker.work
      .filter((w) => maker.traineeOf(w.pieceId) === id)
      .map((w) => maker.block(w.pieceId, w.step, w, 'work'));
    const bench = day.benches[id];
    const where = bench === undefined ? {} : { bench: names.labelOf(bench) };
    return { key: id, label: names.nameOf(id), ...where, group: 'trainee', blocks: [...cures, ...work] };
  });
}

const ovenRows = (day: DayPlanBody, names: BoardNames, maker: BlockMaker): BoardRow[] =>
  day.ovens.map((oven): BoardRow => ({
    key: oven.id,
    label: names.labelOf(oven.id),
    group: 'oven',
    blocks: maker.loads
      .filter((l) => l.ovenId === oven.id)
      .map((l) => ({
        ...maker.block(l.members[0]!.pieceId, l.members[0]!.step, l, 'load'),
        label: `${l.members.length} × ${l.schedule}`,
        title: `${l.schedule}, ${l.way}: ${l.members.map((m) => names.nameOf(maker.traineeOf(m.pieceId))).join(', ')}`,
      })),
  }));

const stationRows = (day: DayPlanBody, names: BoardNames, maker: BlockMaker): BoardRow[] =>
  Object.entries(day.stations).flatMap(([kind, ids]) =>
    ids.flatMap((id, i): BoardRow[] => {
      const own = maker.work.filter((w) => {
        const step = maker.pieces.get(w.pieceId)!.steps[w.step];
        return step?.kind === 'work' && step.station === kind && w.unit === i + 1;
      });
      const blocks = own.map((w) => {
        const block = maker.block(w.pieceId, w.step, w, 'work');
        return { ...block, key: `station ${block.key}`, label: names.shortOf(maker.traineeOf(w.pieceId)) };
      });
      return blocks.length === 0 ? [] : [{ key: id, label: names.labelOf(id), group: 'station', blocks }];
    }),
  );

/**
 * A step, or the whole load that it is in, begun at another minute, and locked there; at another station of its kind, or in another oven,
 * where its thing is given.
 */
export function movedTo(
  day: DayPlanBody,
  block: Pick<Block, 'pieceId' | 'step' | 'kind'>,
  from: number,
  thingId: string | null = null,
): DayPlanBody {
  const { plan } = day;
  if (!plan) return day;
  const isIt = (m: { pieceId: string; step: number }): boolean =>
    m.pieceId === block.pieceId && m.step === block.step;
  const work = plan.work.map((w) =>
    isIt(w) ? { ...w, from, to: from + w.to - w.from, unit: unitAt(day, block, thingId) ?? w.unit } : w,
  );
  const load = plan.loads.find((l) => l.members.some(isIt));
  const oven = day.ovens.find((o) => o.id === thingId);
  const loads = plan.loads.map((l) =>
    l === load ? { ...l, from, to: from + l.to - l.from, ovenId: oven?.id ?? l.ovenId } : l,
  );
  const kept = day.locks.filter((l) => !isIt(l));
  const { pieceId, step } = block;
  return {
    ...day,
    plan: withEnd({ ...plan, work, loads }),
    locks: [...kept, { pieceId, step }],
  };
}

/** The number of a thing among the stations that a step can be done at; null for another thing. */
function unitAt(
  day: DayPlanBody,
  { pieceId, step }: Pick<Block, 'pieceId' | 'step'>,
  thingId: string | null,
): number | null {
  const found = day.pieces.find((p) => p.id === pieceId)?.steps[step];
  const ids = found?.kind === 'work' && found.station !== null ? (day.stations[found.station] ?? []) : [];
  const at = thingId === null ? -1 : ids.indexOf(thingId);
  return at < 0 ? null : at + 1;
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
