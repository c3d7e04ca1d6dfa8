import type { DayWanted, PieceStep, PieceWanted, Span } from './types.ts';

/** No plan of all pieces ends before `endsAt`, minutes since the day began; `of` is what holds it back. */
export interface LeastEnd {
  readonly endsAt: number;
  readonly of:
    | { readonly kind: 'piece'; readonly id: string }
    | { readonly kind: 'trainee'; readonly id: string }
    | { readonly kind: 'station'; readonly id: string }
    | { readonly kind: 'instructors' | 'ovens' | 'nothing' };
}

/**
 * How early a day can end at the best: the longest of what each piece takes alone, each trainee's own work, the work at each kind of station,
 * what the instructors watch, and the loads of the ovens, each spread evenly and without a gap from the first minute that it can begin,
 * with the shortest way to the end after it. A bound by relaxation: whatever it leaves out only takes longer.
 */
export function leastEnd(day: DayWanted): LeastEnd {
  const found: LeastEnd[] = [
    { endsAt: 0, of: { kind: 'nothing' } },
    ...day.pieces.map((p): LeastEnd => ({ endsAt: aloneEnd(day, p), of: { kind: 'piece', id: p.id } })),
  ];
  const trainees = new Set(day.pieces.map((p) => p.traineeId));
  for (const id of trainees) {
    const own = day.pieces.filter((p) => p.traineeId === id);
    found.push({
      endsAt: spread(day, own, 1, (s) => (s.kind === 'work' ? s.minutes : 0)),
      of: { kind: 'trainee', id },
    });
  }
  for (const [id, count] of Object.entries(day.stations)) {
    const minutes = (s: PieceStep): number => (s.kind === 'work' && s.station === id ? s.minutes : 0);
    found.push({ endsAt: spread(day, day.pieces, count, minutes), of: { kind: 'station', id } });
  }
  const watched = (s: PieceStep): number => (s.kind === 'work' ? s.watched : 0);
  found.push({ endsAt: spread(day, day.pieces, day.instructors, watched), of: { kind: 'instructors' } });
  found.push({ endsAt: ovensEnd(day), of: { kind: 'ovens' } });
  return found.reduce((a, b) => (b.endsAt > a.endsAt ? b : a));
}

/** Minutes of a step and of the cooling after it; what comes last is not waited for. */
const takes = (steps: readonly PieceStep[], i: number): number => {
  const step = steps[i]!;
  return step.minutes + (step.kind === 'cure' && i < steps.length - 1 ? (step.cool ?? 0) : 0);
};
/** Minutes from the end of a step to that of its piece. */
const minutesAfter = (steps: readonly PieceStep[], i: number): number =>
  steps.reduce((sum, _, k) => sum + (k > i ? takes(steps, k) : 0), takes(steps, i) - steps[i]!.minutes);

/** When so much work is done that begins at `from`, the hours filled without a gap; Infinity where they end before it. */
function filled(hours: readonly Span[], from: number, minutes: number): number {
  let left = minutes;
  for (const span of hours) {
    const at = Math.max(from, span.from);
    if (at >= span.to) continue;
    if (left <= span.to - at) return at + left;
    left -= span.to - at;
  }
  return left <= 0 ? from : Infinity;
}

/** When a piece would be done that had everything for itself, minutes since the day began; Infinity after its end. */
export function aloneEnd(day: DayWanted, { steps }: Pick<PieceWanted, 'steps'>): number {
  let at = 0;
  steps.forEach((step, i) => {
    at = step.kind === 'cure' ? at + takes(steps, i) : filled(day.hours, at, step.minutes);
  });
  return at;
}

/** Minutes of some steps on `count` of what they need, from the earliest head on, with the shortest tail behind. */
function spread(
  day: DayWanted,
  pieces: readonly PieceWanted[],
  count: number,
  minutesOf: (step: PieceStep) => number,
): number {
  let sum = 0;
  let head = Infinity;
  let tail = Infinity;
  for (const { steps } of pieces) {
    const own = steps.map(minutesOf);
    const first = own.findIndex((m) => m > 0);
    if (first < 0) continue;
    const last = own.reduce((at, m, i) => (m > 0 ? i : at), first);
    sum += own.reduce((a, b) => a + b, 0);
    const before = aloneEnd(day, { steps: steps.slice(0, first) });
    const step = steps[first]!;
    // What is watched lies at the end of its step.
    head = Math.min(head, before + (step.minutes - own[first]!));
    tail = Math.min(tail, minutesAfter(steps, last));
  }
  if (sum === 0) return 0;
  return count > 0 ? filled(day.hours, head, sum / count) + tail : Infinity;
}

function ovensEnd(day: DayWanted): number {
  const most = (way: 'hanging' | 'flat'): number => Math.max(0, ...day.ovens.map((o) => o.places[way]));
  const rest = Math.min(...day.ovens.map((o) => o.rest));
  const kinds = new Map<string, { pieces: number; minutes: number; places: number }>();
  let head = Infinity;
  let tail = Infinity;
  for (const { steps } of day.pieces) {
    steps.forEach((step, i) => {
      if (step.kind !== 'cure') return;
      const key = `${step.schedule} ${step.way} ${step.minutes}`;
      const kind = kinds.get(key) ?? { pieces: 0, minutes: step.minutes, places: most(step.way) };
      kinds.set(key, { ...kind, pieces: kind.pieces + 1 });
      head = Math.min(head, aloneEnd(day, { steps: steps.slice(0, i) }));
      tail = Math.min(tail, minutesAfter(steps, i));
    });
  }
  if (kinds.size === 0) return 0;
  if ([...kinds.values()].some((k) => k.places === 0)) return Infinity;
  const loads = [...kinds.values()]
    .flatMap((k) => new Array<number>(Math.ceil(k.pieces / k.places)).fill(k.minutes + rest))
    .sort((a, b) => b - a);
  return head + leastOnMachines(loads, day.ovens.length) - rest + tail;
}

/**
 * No sharing of jobs among so many machines ends before: a job is not split, so of the n·m + 1 longest some machine has n + 1, at least the
 * shortest of them (the usual bounds of parallel machines). Minutes; `jobs` from the longest on.
 */
export function leastOnMachines(jobs: readonly number[], machines: number): number {
  let least = jobs.reduce((sum, m) => sum + m, 0) / machines;
  for (let n = 0; n * machines < jobs.length; n++) {
    const last = n * machines;
    least = Math.max(
      least,
      jobs.slice(last - n, last + 1).reduce((sum, m) => sum + m, 0),
    );
  }
  return least;
}
