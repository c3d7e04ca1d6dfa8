import type { DayPlan, DayWanted, PieceStep, PlannedLoad, PlannedWork, Span } from './types.ts';

/** What does not hold in a plan. */
export type PlanFault =
  | { readonly fault: 'twice' | 'missing' | 'unknown'; readonly pieceId: string; readonly step: number }
  | { readonly fault: 'order' | 'minutes' | 'hours'; readonly pieceId: string; readonly step: number }
  | { readonly fault: 'overlap'; readonly of: string; readonly at: number }
  | {
      readonly fault: 'load_places' | 'load_mixed' | 'load_short' | 'oven_unknown';
      readonly ovenId: string;
      readonly at: number;
    }
  | { readonly fault: 'too_early' | 'not_kept' | 'used_by'; readonly pieceId: string; readonly step: number }
  | { readonly fault: 'away'; readonly of: string; readonly at: number }
  | { readonly fault: 'ends_at'; readonly said: number; readonly found: number };

/**
 * Everything that does not hold in a plan, found by looking at the plan alone, whatever made it: each step of each piece once or its piece
 * left out whole, in order, as long as it takes, within the hours; nobody and nothing in two places; loads of one schedule and way, no
 * more than the oven holds, cured to the end; nothing but what is fixed before the day's first minute for it, what is fixed where it was, and
 * nothing with whom or what is away. Empty for a plan that holds.
 */
export function planFaults(day: DayWanted, plan: DayPlan): PlanFault[] {
  const faults: PlanFault[] = [];
  const left = new Set(plan.left);
  const placed = new Map<string, Span>();
  const key = (pieceId: string, step: number): string => `${pieceId} ${step}`;
  const stepOf = (pieceId: string, step: number): PieceStep | undefined =>
    day.pieces.find((p) => p.id === pieceId)?.steps[step];
  const put = (pieceId: string, step: number, span: Span, kind: PieceStep['kind']): void => {
    const wanted = stepOf(pieceId, step);
    if (wanted?.kind !== kind || left.has(pieceId))
      return void faults.push({ fault: 'unknown', pieceId, step });
    if (placed.has(key(pieceId, step))) faults.push({ fault: 'twice', pieceId, step });
    placed.set(key(pieceId, step), span);
    if (span.to - span.from !== wanted.minutes) faults.push({ fault: 'minutes', pieceId, step });
    if (wanted.kind === 'work' && span.to > (wanted.by ?? span.to))
      faults.push({ fault: 'used_by', pieceId, step });
  };
  for (const w of plan.work) {
    put(w.pieceId, w.step, w, 'work');
    if (!day.hours.some((h) => w.from >= h.from && w.to <= h.to))
      faults.push({ fault: 'hours', pieceId: w.pieceId, step: w.step });
  }
  for (const load of plan.loads) {
    for (const { pieceId, step } of load.members) put(pieceId, step, load, 'cure');
    faults.push(...loadFaults(day, load, stepOf));
  }
  for (const piece of day.pieces) {
    if (left.has(piece.id)) continue;
    piece.steps.forEach((_, step) => {
      const span = placed.get(key(piece.id, step));
      const before = placed.get(key(piece.id, step - 1));
      if (!span) faults.push({ fault: 'missing', pieceId: piece.id, step });
      else if (before && span.from < before.to + coolAfter(piece.steps[step - 1]))
        faults.push({ fault: 'order', pieceId: piece.id, step });
    });
  }
  const isFixed = new Set<string>();
  for (const fixed of day.fixed ?? []) {
    const span = fixed.kind === 'work' ? fixed.work : fixed.load;
    const members = fixed.kind === 'work' ? [fixed.work] : fixed.load.members;
    for (const { pieceId, step } of members) {
      isFixed.add(key(pieceId, step));
      const at = placed.get(key(pieceId, step));
      if (at && (at.from !== span.from || at.to !== span.to))
        faults.push({ fault: 'not_kept', pieceId, step });
    }
  }
  for (const [at, span] of placed) {
    const cut = at.lastIndexOf(' ');
    if (span.from < (day.notBefore ?? 0) && !isFixed.has(at))
      faults.push({ fault: 'too_early', pieceId: at.slice(0, cut), step: Number(at.slice(cut + 1)) });
  }
  const busy = busySpans(day, plan);
  faults.push(...overlaps(day, busy), ...awayFaults(day, busy));
  const found = Math.max(0, ...[...plan.work, ...plan.loads].map((s) => s.to));
  if (found !== plan.endsAt) faults.push({ fault: 'ends_at', said: plan.endsAt, found });
  return faults;
}

const coolAfter = (step: PieceStep | undefined): number => (step?.kind === 'cure' ? (step.cool ?? 0) : 0);

function loadFaults(
  day: DayWanted,
  load: DayPlan['loads'][number],
  stepOf: (pieceId: string, step: number) => PieceStep | undefined,
): PlanFault[] {
  const at = load.from;
  const { ovenId } = load;
  const oven = day.ovens.find((o) => o.id === ovenId);
  if (!oven) return [{ fault: 'oven_unknown', ovenId, at }];
  const faults: PlanFault[] = [];
  if (load.members.length > oven.places[load.way]) faults.push({ fault: 'load_places', ovenId, at });
  for (const { pieceId, step } of load.members) {
    const cure = stepOf(pieceId, step);
    if (cure?.kind !== 'cure') continue;
    if (cure.schedule !== load.schedule || cure.way !== load.way)
      faults.push({ fault: 'load_mixed', ovenId, at });
    if (load.to - load.from < cure.minutes) faults.push({ fault: 'load_short', ovenId, at });
  }
  if (load.to > (day.hours.at(-1)?.to ?? 0)) faults.push({ fault: 'load_short', ovenId, at });
  return faults;
}

interface BusySpan extends Span {
  readonly isFixed: boolean;
}
type Busy = ReadonlyMap<string, readonly BusySpan[]>;

/** What each trainee, station, oven and instructor is busy with. */
function busySpans(day: DayWanted, plan: DayPlan): Busy {
  const busy = new Map<string, BusySpan[]>();
  const fixed = new Set((day.fixed ?? []).map((f) => (f.kind === 'work' ? f.work : f.load)).map(spanKey));
  const add = (of: string, span: Span, isFixed: boolean): void =>
    void busy.set(of, [...(busy.get(of) ?? []), { from: span.from, to: span.to, isFixed }]);
  for (const w of plan.work) {
    const piece = day.pieces.find((p) => p.id === w.pieceId);
    const step = piece?.steps[w.step];
    if (!piece || step?.kind !== 'work') continue;
    const isFixed = fixed.has(spanKey(w));
    add(`trainee ${piece.traineeId}`, w, isFixed);
    if (step.station !== null) add(`${step.station} ${w.unit ?? 'none'}`, w, isFixed);
    if (step.watched > 0)
      add(`instructor ${w.instructor ?? 'none'}`, { from: w.to - step.watched, to: w.to }, isFixed);
  }
  for (const load of plan.loads) {
    const rest = day.ovens.find((o) => o.id === load.ovenId)?.rest ?? 0;
    add(`oven ${load.ovenId}`, { from: load.from, to: load.to + rest }, fixed.has(spanKey(load)));
  }
  return busy;
}
const spanKey = (span: PlannedWork | PlannedLoad): string =>
  'pieceId' in span ? `${span.pieceId} ${span.step} ${span.from}` : `${span.ovenId} ${span.from}`;

/** What is planned with somebody or something that is away then; what was fixed before it went stays. */
function awayFaults(day: DayWanted, busy: Busy): PlanFault[] {
  return (day.away ?? []).flatMap(({ of, from, to }) => {
    const name =
      of.kind === 'station'
        ? `${of.id} ${of.unit}`
        : of.kind === 'instructor'
          ? `instructor ${of.unit}`
          : `${of.kind} ${of.id}`;
    return (busy.get(name) ?? [])
      .filter((s) => !s.isFixed && s.from < to && from < s.to)
      .map((s): PlanFault => ({ fault: 'away', of: name, at: s.from }));
  });
}

/** Spans of one trainee, station, oven or instructor that lie over each other. */
function overlaps(day: DayWanted, busy: Busy): PlanFault[] {
  const faults: PlanFault[] = [];
  for (const [of, spans] of busy) {
    const counted = /^(.*) (\S+)$/.exec(of)!;
    const kind = counted[1]!;
    const most = kind === 'instructor' ? day.instructors : day.stations[kind];
    const number = Number(counted[2]);
    const isCounted = kind === 'instructor' || kind in day.stations;
    if (isCounted && !(number >= 1 && number <= (most ?? 0)))
      faults.push({ fault: 'overlap', of, at: spans[0]!.from });
    const inOrder = [...spans].sort((a, b) => a.from - b.from);
    inOrder.forEach((span, i) => {
      const next = inOrder[i + 1];
      if (next && next.from < span.to) faults.push({ fault: 'overlap', of, at: next.from });
    });
  }
  return faults;
}
