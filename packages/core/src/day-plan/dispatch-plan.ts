import type { CureStep, DayPlan, DayWanted, PieceStep, PlannedLoad, PlannedWork, WorkStep } from './types.ts';

/** How a dispatcher chooses. */
export interface DispatchRule {
  /** Minutes by which each piece, in the order of the day's list, counts as more urgent than it is. */
  readonly bias: readonly number[];
  /** So long a load that is not full waits for a piece that comes soon, minutes. */
  readonly wait: number;
  /** No load holds more, though its oven would. */
  readonly most: number;
}

interface Moving {
  readonly id: string;
  readonly nth: number;
  readonly trainee: number;
  readonly steps: readonly PieceStep[];
  /** Minutes from the beginning of each step to the end of the piece. */
  readonly tails: readonly number[];
  /** Which kind of load each step stands in; -1 for work. */
  readonly kinds: readonly number[];
  next: number;
  readyAt: number;
  /** Nobody who could watch it, or no station, is free before. */
  againAt: number;
  urgency: number;
  inQueue: boolean;
}
interface LoadKind {
  readonly step: CureStep;
  readonly queue: Moving[];
}

/**
 * A plan minute by minute, as a good foreman makes it: whenever somebody is free, the most urgent step that can begin does; an oven that is
 * free takes the most urgent pieces of one schedule, or waits a little for more. Urgent is what has most work behind it, in the piece or
 * for its trainee. Null where something does not fit into the day: then an order has to say what is left out (`buildPlan`). Days with
 * something fixed or away are not dispatched.
 */
export function dispatchPlan(day: DayWanted, rule: DispatchRule): DayPlan | null {
  return new Dispatch(day, rule).run();
}

class Dispatch {
  private readonly work: PlannedWork[] = [];
  private readonly loads: PlannedLoad[] = [];
  private readonly pieces: readonly Moving[];
  /** Pieces of each trainee that are not done. */
  private readonly byTrainee: readonly Moving[][];
  private readonly kinds: readonly LoadKind[];
  /** Minutes of work that each trainee still has. */
  private readonly remaining: number[];
  private readonly traineeFree: number[];
  private readonly units: ReadonlyMap<string, number[]>;
  private readonly instructors: readonly [from: number, to: number][][];
  private readonly ovenFree: number[];
  private readonly dayEnds: number;
  private left: number;
  /** A step came too late for what it uses. */
  private isLost = false;
  /** The next minute at which something may change. */
  private next = 0;

  constructor(
    private readonly day: DayWanted,
    private readonly rule: DispatchRule,
  ) {
    const trainees = [...new Set(day.pieces.map((p) => p.traineeId))];
    const at = new Map(trainees.map((id, i) => [id, i]));
    const kinds = new Map<string, number>();
    const found: LoadKind[] = [];
    const kindOf = (step: PieceStep): number => {
      if (step.kind === 'work') return -1;
      const key = `${step.schedule} ${step.way} ${step.minutes}`;
      if (!kinds.has(key)) kinds.set(key, found.push({ step, queue: [] }) - 1);
      return kinds.get(key)!;
    };
    this.kinds = found;
    this.pieces = day.pieces.map(({ id, traineeId, steps }, nth) => ({
      id,
      nth,
      trainee: at.get(traineeId)!,
      steps,
      tails: steps.map((_, i) => steps.slice(i).reduce((sum, s) => sum + s.minutes, 0)),
      kinds: steps.map(kindOf),
      next: 0,
      readyAt: 0,
      againAt: 0,
      urgency: 0,
      inQueue: false,
    }));
    this.byTrainee = trainees.map((_, i) => this.pieces.filter((p) => p.trainee === i));
    this.remaining = this.byTrainee.map((own) =>
      own.flatMap((p) => p.steps).reduce((sum, s) => sum + (s.kind === 'work' ? s.minutes : 0), 0),
    );
    this.traineeFree = trainees.map(() => 0);
    this.units = new Map(
      Object.entries(day.stations).map(([kind, n]) => [kind, new Array<number>(n).fill(0)]),
    );
    this.instructors = Array.from({ length: day.instructors }, () => []);
    this.ovenFree = day.ovens.map(() => 0);
    this.dayEnds = day.hours.at(-1)?.to ?? 0;
    this.left = this.pieces.length;
  }

  run(): DayPlan | null {
    for (const piece of this.pieces) {
      if (piece.steps.length === 0) this.left -= 1;
      else if (piece.kinds[0]! >= 0) this.enqueue(piece);
    }
    for (let now = 0; this.left > 0; now = Math.max(now + 1, this.next)) {
      if (now > this.dayEnds || this.isLost) return null;
      this.next = Infinity;
      const hour = this.day.hours.find((h) => now < h.to);
      if (hour) this.later(now < hour.from ? hour.from : hour.to);
      if (hour && now >= hour.from) this.beginWork(now, hour.to);
      this.loadOvens(now, hour !== undefined && now >= hour.from);
      if (this.next === Infinity && this.left > 0) return null;
    }
    const ends = [...this.work, ...this.loads].map((s) => s.to);
    return { work: this.work, loads: this.loads, left: [], endsAt: Math.max(0, ...ends) };
  }

  private later(at: number): void {
    if (at < this.next) this.next = at;
  }
  private urgency({ tails, next, trainee, nth }: Moving): number {
    const tail = tails[next]!;
    const remaining = this.remaining[trainee]!;
    return (tail > remaining ? tail : remaining) + tail / 2 + this.rule.bias[nth]!;
  }
  private enqueue(piece: Moving): void {
    piece.inQueue = true;
    this.kinds[piece.kinds[piece.next]!]!.queue.push(piece);
  }

  private beginWork(now: number, until: number): void {
    for (const busy of this.instructors) while (busy.length > 0 && busy[0]![1] <= now) busy.shift();
    const ready: Moving[] = [];
    for (let i = 0; i < this.byTrainee.length; i++) {
      if (this.traineeFree[i]! > now) {
        this.later(this.traineeFree[i]!);
        continue;
      }
      for (const piece of this.byTrainee[i]!) {
        if (piece.inQueue) continue;
        if (piece.readyAt > now) this.later(piece.readyAt);
        else if (piece.againAt > now) this.later(piece.againAt);
        else {
          piece.urgency = this.urgency(piece);
          ready.push(piece);
        }
      }
    }
    if (ready.length > 1) ready.sort((a, b) => b.urgency - a.urgency);
    for (const piece of ready) {
      if (this.traineeFree[piece.trainee]! <= now) this.tryWork(piece, now, until);
    }
  }

  private tryWork(piece: Moving, now: number, until: number): void {
    const step = piece.steps[piece.next]!;
    const to = now + step.minutes;
    if (step.kind !== 'work' || to > until) return;
    if (to > (step.by ?? to)) {
      this.isLost = true;
      return;
    }
    const units = step.station === null ? null : (this.units.get(step.station) ?? []);
    const unit = units ? units.findIndex((free) => free <= now) : -1;
    if (units && unit < 0) {
      piece.againAt = Math.min(Infinity, ...units);
      return this.later(piece.againAt);
    }
    const who = step.watched > 0 ? this.watcher(to - step.watched, to) : -1;
    if (step.watched > 0 && who < 0) {
      piece.againAt = this.watchedFrom(now, step);
      return this.later(piece.againAt);
    }
    if (units) units[unit] = to;
    this.traineeFree[piece.trainee] = to;
    this.remaining[piece.trainee]! -= step.minutes;
    this.later(to);
    this.work.push({
      pieceId: piece.id,
      step: piece.next,
      from: now,
      to,
      unit: unit < 0 ? null : unit + 1,
      instructor: who < 0 ? null : who + 1,
    });
    this.done(piece, to);
  }
  private done(piece: Moving, at: number): void {
    piece.readyAt = at;
    piece.next += 1;
    if (piece.next === piece.steps.length) {
      this.left -= 1;
      const own = this.byTrainee[piece.trainee]!;
      own.splice(own.indexOf(piece), 1);
    } else if (piece.kinds[piece.next]! >= 0) this.enqueue(piece);
  }
  /** The first minute after `now` at which the step could begin and have somebody to watch its end. */
  private watchedFrom(now: number, { minutes, watched }: WorkStep): number {
    let least = Infinity;
    for (const busy of this.instructors) {
      let from = now + 1 + minutes - watched;
      for (const [begins, ends] of busy) {
        if (ends <= from) continue;
        if (begins >= from + watched) break;
        from = ends;
      }
      least = Math.min(least, from);
    }
    return least - minutes + watched;
  }
  /** An instructor who is free from and to, taken for it; -1 for none. */
  private watcher(from: number, to: number): number {
    for (let who = 0; who < this.instructors.length; who++) {
      const busy = this.instructors[who]!;
      let i = busy.length;
      while (i > 0 && busy[i - 1]![0] >= to) i -= 1;
      if (i > 0 && busy[i - 1]![1] > from) continue;
      busy.splice(i, 0, [from, to]);
      return who;
    }
    return -1;
  }

  private loadOvens(now: number, isWorking: boolean): void {
    const waiting = this.kinds.filter(({ queue }) => queue.length > 0);
    const most = ({ queue }: LoadKind): number => Math.max(...queue.map((p) => this.urgency(p)));
    if (waiting.length > 1) waiting.sort((a, b) => most(b) - most(a));
    for (const kind of waiting) {
      while (this.tryLoad(kind, now, isWorking));
      for (const piece of kind.queue) if (piece.readyAt > now) this.later(piece.readyAt);
    }
  }

  private tryLoad(kind: LoadKind, now: number, isWorking: boolean): boolean {
    const { step, queue } = kind;
    const ready = queue.filter((p) => p.readyAt <= now);
    if (ready.length === 0) return false;
    const nth = this.day.ovens.findIndex((o, i) => this.ovenFree[i]! <= now && o.places[step.way] > 0);
    if (nth < 0) {
      for (const free of this.ovenFree) if (free > now) this.later(free);
      return false;
    }
    const oven = this.day.ovens[nth]!;
    const most = Math.max(1, Math.min(oven.places[step.way], this.rule.most));
    const since = Math.min(...ready.map((p) => p.readyAt));
    if (ready.length < most && now - since < this.rule.wait && this.comesSoon(kind, now, isWorking)) {
      this.later(since + this.rule.wait);
      return false;
    }
    const to = now + step.minutes;
    if (to > this.dayEnds) return false;
    ready.sort((a, b) => this.urgency(b) - this.urgency(a));
    const taken = ready.slice(0, most);
    this.ovenFree[nth] = to + oven.rest;
    this.later(to);
    this.loads.push({
      ovenId: oven.id,
      schedule: step.schedule,
      way: step.way,
      members: taken.map((p) => ({ pieceId: p.id, step: p.next })),
      from: now,
      to,
    });
    for (const piece of taken) {
      queue.splice(queue.indexOf(piece), 1);
      piece.inQueue = false;
      this.done(piece, to + (step.cool ?? 0));
    }
    return true;
  }
  private comesSoon(kind: LoadKind, now: number, isWorking: boolean): boolean {
    const by = now + this.rule.wait;
    if (kind.queue.some((p) => p.readyAt > now && p.readyAt <= by)) return true;
    const nth = this.kinds.indexOf(kind);
    return (
      isWorking &&
      this.byTrainee.some(
        (own, i) =>
          this.traineeFree[i]! <= by &&
          own.some((p) => p.kinds[p.next + 1] === nth && !p.inQueue && p.readyAt <= by),
      )
    );
  }
}
