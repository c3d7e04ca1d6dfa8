import { Timeline, withinHours } from './timeline.ts';
import type {
  CureStep,
  DayPlan,
  DayWanted,
  Oven,
  PieceWanted,
  PlannedLoad,
  PlannedWork,
  WorkStep,
} from './types.ts';

/** Pieces that stand before an oven together. */
interface OpenLoad {
  readonly key: string;
  readonly step: CureStep;
  readonly members: { pieceId: string; step: number; readyAt: number }[];
}
/** Where a piece is in the making of a plan. */
interface Progress {
  readonly piece: PieceWanted;
  next: number;
  readyAt: number;
  waits: OpenLoad | null;
  /** It does not fit into the day. */
  out: boolean;
}

/**
 * A plan from an order: each name of a piece in `order` places its next step as early as everything that it needs is free. A step in the oven
 * first stands before it with others of its schedule and way; they go in once the load is full, or once a member is named again. Orders
 * differ in the plan that they make; every order makes a plan that holds. Pieces that do not fit are left out whole, what was planned of them
 * with them.
 */
export function buildPlan(day: DayWanted, order: readonly string[]): DayPlan {
  const left = new Set<string>();
  for (;;) {
    const attempt = new Attempt(day, left);
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

  constructor(
    private readonly day: DayWanted,
    left: ReadonlySet<string>,
  ) {
    const lines = (n: number): Timeline[] => Array.from({ length: n }, () => new Timeline());
    this.pieces = new Map(
      day.pieces
        .filter((p) => !left.has(p.id))
        .map((piece) => [piece.id, { piece, next: 0, readyAt: 0, waits: null, out: false }]),
    );
    this.stations = new Map(Object.entries(day.stations).map(([kind, n]) => [kind, lines(n)]));
    this.instructors = lines(day.instructors);
    this.ovens = day.ovens.map((oven) => ({ oven, line: new Timeline() }));
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
    return step.kind === 'work' ? this.place(progress, step) : this.stand(progress, step);
  }

  private place(progress: Progress, step: WorkStep): boolean {
    const trainee = this.traineeLine(progress.piece.traineeId);
    const units = step.station === null ? null : (this.stations.get(step.station) ?? []);
    if (units?.length === 0 || (step.watched > 0 && this.instructors.length === 0)) return false;
    let at: number | null = progress.readyAt;
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
    const watchFrom = to - step.watched;
    const unit = units ? units.findIndex((u) => u.freeFrom(at, step.minutes) === at) : -1;
    const who =
      step.watched > 0
        ? this.instructors.findIndex((i) => i.freeFrom(watchFrom, step.watched) === watchFrom)
        : -1;
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
    const most = Math.max(0, ...this.ovens.map(({ oven }) => oven.places[step.way]));
    if (most === 0) return false;
    const key = `${step.schedule} ${step.way} ${step.minutes}`;
    let load = this.open.find((o) => o.key === key);
    if (!load) this.open.push((load = { key, step, members: [] }));
    load.members.push({ pieceId: progress.piece.id, step: progress.next, readyAt: progress.readyAt });
    progress.waits = load;
    return load.members.length < most || this.close(load) === null;
  }

  /** Puts a load into the oven that takes it first. Gives a member when it cannot be cured before the day ends. */
  private close(load: OpenLoad): string | null {
    this.open.splice(this.open.indexOf(load), 1);
    const readyAt = Math.max(...load.members.map((m) => m.readyAt));
    const { minutes, schedule, way } = load.step;
    const fitting = this.ovens.filter(({ oven }) => oven.places[way] >= load.members.length);
    const starts = fitting.map(({ oven, line }) => line.freeFrom(readyAt, minutes + oven.rest));
    const at = Math.min(...starts);
    const dayEnds = this.day.hours.at(-1)?.to ?? 0;
    if (!(at + minutes <= dayEnds)) return load.members.at(-1)!.pieceId;
    const { oven, line } = fitting[starts.indexOf(at)]!;
    line.take(at, at + minutes + oven.rest);
    const members = load.members.map(({ pieceId, step }) => ({ pieceId, step }));
    this.loads.push({ ovenId: oven.id, schedule, way, members, from: at, to: at + minutes });
    for (const { pieceId } of load.members) {
      const progress = this.pieces.get(pieceId)!;
      progress.waits = null;
      progress.next += 1;
      progress.readyAt = at + minutes;
    }
    return null;
  }

  private traineeLine(id: string): Timeline {
    const line = this.trainees.get(id) ?? new Timeline();
    this.trainees.set(id, line);
    return line;
  }
}
