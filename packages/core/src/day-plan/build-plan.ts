import { Timeline, withinHours } from './timeline.ts';
import type {
  Away,
  CureStep,
  DayPlan,
  DayWanted,
  FixedStep,
  Oven,
  PieceStep,
  PieceWanted,
  PlannedLoad,
  PlannedWork,
  Span,
  WorkStep,
} from './types.ts';

/** Where steps were in an earlier plan, by `placeKey`. */
export interface KeptPlaces {
  readonly work: ReadonlyMap<string, PlannedWork>;
  readonly loads: ReadonlyMap<string, PlannedLoad>;
}
export const placeKey = (pieceId: string, step: number): string => `${pieceId} ${step}`;

/** Pieces that stand before an oven together. */
interface OpenLoad {
  readonly key: string;
  readonly step: CureStep;
  readonly was: PlannedLoad | null;
  readonly members: { pieceId: string; step: number; readyAt: number }[];
}
/** Where a piece is in the making of a plan. */
interface Progress {
  readonly piece: PieceWanted;
  next: number;
  readyAt: number;
  waits: OpenLoad | null;
}

/**
 * A plan from an order: each name of a piece in `order` places its next step as early as everything that it needs is free. A step in the oven
 * first stands before it with others of its schedule and way; they go in once the load is full, or once a member is named again. Orders
 * differ in the plan that they make; every order makes a plan that holds. Pieces that do not fit are left out whole, what was planned of them
 * with them. With `kept` no step begins before it did, it stays at its station and with its instructor where they are free, and loads keep
 * their members.
 */
export function buildPlan(day: DayWanted, order: readonly string[], kept: KeptPlaces | null = null): DayPlan {
  const left = new Set<string>();
  for (;;) {
    const attempt = new Attempt(day, left, kept);
    const misfit = attempt.run(order);
    if (misfit === null) return attempt.plan([...left]);
    left.add(misfit);
  }
}

class Attempt {
  private readonly work: PlannedWork[] = [];
  private readonly loads: PlannedLoad[] = [];
  private readonly open: OpenLoad[] = [];
  private readonly pieces: ReadonlyMap<string, Progress>;
  private readonly trainees = new Map<string, Timeline>();
  private readonly stations: ReadonlyMap<string, readonly Timeline[]>;
  private readonly instructors: readonly Timeline[];
  private readonly ovens: readonly { readonly oven: Oven; readonly line: Timeline }[];
  /** Steps that stay where they are. */
  private readonly fixed = new Map<string, Span>();

  constructor(
    private readonly day: DayWanted,
    left: ReadonlySet<string>,
    private readonly kept: KeptPlaces | null,
  ) {
    const lines = (n: number): Timeline[] => Array.from({ length: n }, () => new Timeline());
    this.pieces = new Map(
      day.pieces
        .filter((p) => !left.has(p.id))
        .map((piece) => [piece.id, { piece, next: 0, readyAt: day.notBefore ?? 0, waits: null }]),
    );
    this.stations = new Map(Object.entries(day.stations).map(([kind, n]) => [kind, lines(n)]));
    this.instructors = lines(day.instructors);
    this.ovens = day.ovens.map((oven) => ({ oven, line: new Timeline() }));
    for (const away of day.away ?? []) this.takeAway(away);
    for (const fixed of day.fixed ?? []) this.takeFixed(fixed, left);
  }

  private takeAway({ of, from, to }: Away): void {
    if (of.kind === 'trainee') this.traineeLine(of.id).takeOver(from, to);
    else if (of.kind === 'oven') this.ovens.find(({ oven }) => oven.id === of.id)?.line.takeOver(from, to);
    else if (of.kind === 'instructor') this.instructors[of.unit - 1]?.takeOver(from, to);
    else this.stations.get(of.id)?.[of.unit - 1]?.takeOver(from, to);
  }
  private takeFixed(fixed: FixedStep, left: ReadonlySet<string>): void {
    if (fixed.kind === 'load') {
      const { load } = fixed;
      const members = load.members.filter((m) => !left.has(m.pieceId));
      if (members.length === 0) return;
      const found = this.ovens.find(({ oven }) => oven.id === load.ovenId);
      found?.line.takeOver(load.from, load.to + found.oven.rest);
      this.loads.push({ ...load, members });
      for (const m of members) this.fixed.set(placeKey(m.pieceId, m.step), load);
      return;
    }
    const { work } = fixed;
    const piece = this.pieces.get(work.pieceId)?.piece;
    const step = piece?.steps[work.step];
    if (!piece || step?.kind !== 'work') return;
    this.traineeLine(piece.traineeId).takeOver(work.from, work.to);
    if (step.station !== null)
      this.stations.get(step.station)?.[(work.unit ?? 0) - 1]?.takeOver(work.from, work.to);
    if (step.watched > 0)
      this.instructors[(work.instructor ?? 0) - 1]?.takeOver(work.to - step.watched, work.to);
    this.work.push(work);
    this.fixed.set(placeKey(work.pieceId, work.step), work);
  }

  /** The id of the first piece that does not fit; null when all do. */
  run(order: readonly string[]): string | null {
    const rest = [...this.pieces.values()].flatMap(({ piece }) => piece.steps.map(() => piece.id));
    for (const id of [...order, ...rest]) {
      const progress = this.pieces.get(id);
      if (!progress) continue;
      if (!this.advance(progress)) return id;
    }
    for (const load of [...this.open]) {
      const misfit = this.close(load);
      if (misfit !== null) return misfit;
    }
    // What stood before an oven has its last steps still to come.
    for (const progress of this.pieces.values()) {
      while (progress.next < progress.piece.steps.length || progress.waits) {
        if (!this.advance(progress)) return progress.piece.id;
      }
    }
    return null;
  }

  plan(left: readonly string[]): DayPlan {
    const ends = [...this.work, ...this.loads].map((w) => w.to);
    return { work: this.work, loads: this.loads, left, endsAt: Math.max(0, ...ends) };
  }

  private advance(progress: Progress): boolean {
    if (progress.waits && this.close(progress.waits) !== null) return false;
    const step = progress.piece.steps[progress.next];
    if (!step) return true;
    const fixed = this.fixed.get(placeKey(progress.piece.id, progress.next));
    if (fixed) {
      progress.next += 1;
      // Where what came before ended later, the step is still where it was put: the check of the plan says so.
      progress.readyAt = Math.max(progress.readyAt, fixed.to + coolOf(step));
      return true;
    }
    return step.kind === 'work' ? this.place(progress, step) : this.stand(progress, step);
  }

  private place(progress: Progress, step: WorkStep): boolean {
    const trainee = this.traineeLine(progress.piece.traineeId);
    const units = step.station === null ? null : (this.stations.get(step.station) ?? []);
    if (units?.length === 0 || (step.watched > 0 && this.instructors.length === 0)) return false;
    const was = this.kept?.work.get(placeKey(progress.piece.id, progress.next));
    let at: number | null = Math.max(progress.readyAt, was?.from ?? 0);
    for (;;) {
      at = withinHours(this.day.hours, at, step.minutes);
      if (at === null) return false;
      const watchFrom: number = at + step.minutes - step.watched;
      const wanted = Math.max(
        trainee.freeFrom(at, step.minutes),
        units ? Math.min(...units.map((u) => u.freeFrom(at!, step.minutes))) : at,
        step.watched > 0
          ? at + Math.min(...this.instructors.map((i) => i.freeFrom(watchFrom, step.watched))) - watchFrom
          : at,
      );
      if (wanted === at) break;
      at = wanted;
    }
    const to = at + step.minutes;
    if (to > (step.by ?? to)) return false;
    const watchFrom = to - step.watched;
    const unit = units ? freeLine(units, at, step.minutes, was?.unit) : -1;
    const who = step.watched > 0 ? freeLine(this.instructors, watchFrom, step.watched, was?.instructor) : -1;
    trainee.take(at, to);
    units?.[unit]?.take(at, to);
    this.instructors[who]?.take(watchFrom, to);
    this.work.push({
      pieceId: progress.piece.id,
      step: progress.next,
      from: at,
      to,
      unit: unit < 0 ? null : unit + 1,
      instructor: who < 0 ? null : who + 1,
    });
    progress.next += 1;
    progress.readyAt = to;
    return true;
  }

  /** Joins a load that stands before the ovens, or begins one; a full one goes in. */
  private stand(progress: Progress, step: CureStep): boolean {
    const was = this.kept?.loads.get(placeKey(progress.piece.id, progress.next));
    const most = was?.members.length ?? Math.max(0, ...this.ovens.map(({ oven }) => oven.places[step.way]));
    if (this.ovens.every(({ oven }) => oven.places[step.way] === 0)) return false;
    const key = `${step.schedule} ${step.way} ${step.minutes} ${was ? `${was.ovenId} ${was.from}` : ''}`;
    let load = this.open.find((o) => o.key === key);
    if (!load) this.open.push((load = { key, step, members: [], was: was ?? null }));
    load.members.push({ pieceId: progress.piece.id, step: progress.next, readyAt: progress.readyAt });
    progress.waits = load;
    return load.members.length < most || this.close(load) === null;
  }

  /** Puts a load into the oven that takes it first. Gives a member when it cannot be cured before the day ends. */
  private close(load: OpenLoad): string | null {
    this.open.splice(this.open.indexOf(load), 1);
    const readyAt = Math.max(load.was?.from ?? 0, ...load.members.map((m) => m.readyAt));
    const { minutes, schedule, way } = load.step;
    const fitting = this.ovens.filter(({ oven }) => oven.places[way] >= load.members.length);
    const starts = fitting.map(({ oven, line }) => line.freeFrom(readyAt, minutes + oven.rest));
    const at = Math.min(...starts);
    const dayEnds = this.day.hours.at(-1)?.to ?? 0;
    if (!(at + minutes <= dayEnds)) return load.members.at(-1)!.pieceId;
    const same = fitting.findIndex(({ oven }, i) => oven.id === load.was?.ovenId && starts[i] === at);
    const { oven, line } = fitting[same < 0 ? starts.indexOf(at) : same]!;
    line.take(at, at + minutes + oven.rest);
    const members = load.members.map(({ pieceId, step }) => ({ pieceId, step }));
    this.loads.push({ ovenId: oven.id, schedule, way, members, from: at, to: at + minutes });
    for (const { pieceId } of load.members) {
      const progress = this.pieces.get(pieceId)!;
      progress.waits = null;
      progress.next += 1;
      progress.readyAt = at + minutes + (load.step.cool ?? 0);
    }
    return null;
  }

  private traineeLine(id: string): Timeline {
    const line = this.trainees.get(id) ?? new Timeline();
    this.trainees.set(id, line);
    return line;
  }
}

const coolOf = (step: PieceStep): number => (step.kind === 'cure' ? (step.cool ?? 0) : 0);

/** Which of some lines is free then for so long, the wished one (counted from 1) before others. */
function freeLine(
  lines: readonly Timeline[],
  at: number,
  minutes: number,
  wished: number | null | undefined,
): number {
  const isFree = (line: Timeline | undefined): boolean => line?.freeFrom(at, minutes) === at;
  return wished && isFree(lines[wished - 1]) ? wished - 1 : lines.findIndex(isFree);
}
