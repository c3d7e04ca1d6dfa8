import { placeFaintSteps } from './faint-steps.ts';
import { type Line, levelAt, RunningSums, uncertaintyAt } from './running-line.ts';
import { type Edge, LEAST_LINE, type Stretch } from './stretches.ts';
import { metresOf, type Trace } from './trace.ts';
import { levelOf, noiseOf, powerOf, sdAt, type TraceNoise } from './trace-noise.ts';

/**
 * Standard deviations by which a mean has to leave the line that goes before it. A normal deviate does so once in 40 million; with
 * seven lengths of means at each point of 128,000 points, most of them alike, that is less than one false event in thirty traces.
 */
export const LEAVES_SD = 5.5;
/** Less than this is no event, however quiet the trace: fiber is not that even. */
const LEAST_DB = 0.02;
/** Means of 1, 2, 4 to 64 points at most; so many as it takes to see `WANTED_DB` in the noise, since a long one looks far ahead. */
const MEANS = 7;
const LEAST_MEANS = 3;
const WANTED_DB = 0.05;
/** A fiber loses no more than this, dB a km; what falls faster is an event that has not settled. */
const STEEPEST_DB_KM = 12;
/** The trace has sunk into the noise where the median of a stretch is no more than so many deviations. */
const SEEN_SD = 4;
/** A trace that ends so many deviations above the noise did not sink into it. */
const DROP_SD = 5.5;
/** A rise that begins anew is another event: the step before it was so much smaller. */
const ANEW = 0.35;
const LEAST_RISE_DB = 0.05;

/** A line that was followed, and the mean that left it: of how many points, and how far. */
interface Followed extends Stretch {
  readonly seen: { readonly n: number; readonly off: number } | null;
}
/** What lies between two stretches, or after the last one: one edge, or several that read as one. */
export interface Found {
  readonly stretches: readonly Stretch[];
  /** Edges between stretch i and i + 1; the last ones are the end. */
  readonly edges: readonly (readonly Edge[])[];
  readonly noise: TraceNoise;
  readonly sums: RunningSums;
  /** Points of a pulse. */
  readonly pulse: number;
  /** The first point that is noise; the number of points where the trace ends before its fiber does. */
  readonly noiseFrom: number;
}

/** Metres of a pulse on the trace: c t / 2n. */
export const pulseMetres = ({ pulseNs, groupIndex }: Pick<Trace, 'pulseNs' | 'groupIndex'>): number =>
  metresOf(pulseNs * 10, groupIndex) / 2;

const LEAST_M = 1;
/** How far apart two looks at one event may lie: a pulse, and no less than a metre. */
export const sameEventM = (trace: Pick<Trace, 'pulseNs' | 'groupIndex'>): number =>
  Math.max(LEAST_M, pulseMetres(trace));
/** How far a mark that somebody sets may lie from its event: half a pulse, and no less than a metre. */
export const markWithinM = (trace: Pick<Trace, 'pulseNs' | 'groupIndex'>): number =>
  Math.max(LEAST_M, pulseMetres(trace) / 2);

/**
 * Walks along the trace from line to line. A line is followed until the mean of the next 1, 2, 4 and more points leaves it by
 * `LEAVES_SD`; then the walk looks for where the trace lies on a line again, and notes each rise on the way that begins anew.
 */
export function findEvents(trace: Trace): Found {
  const noise = noiseOf(trace);
  const sums = new RunningSums(trace.levelsDb);
  const pulse = Math.max(1, Math.round(pulseMetres(trace) / trace.spacingM));
  const noiseFrom = whereNoiseBegins(trace.levelsDb, noise, pulse);
  const walk = new Walk(trace, noise, sums, pulse, noiseFrom);
  const stretches: Stretch[] = [];
  const edges: Edge[][] = [];
  // The port itself is where the trace begins, and no event of the fiber.
  let settled = walk.settle(0);
  while (settled) {
    const followed = walk.follow(settled.from);
    const { from, to } = followed;
    const edge = walk.edgeAfter(followed);
    const end = edge ? Math.max(from + LEAST_LINE, edge.at) : to;
    stretches.push({ from, to: end, line: sums.line(from, end) });
    if (!edge) break;
    settled = walk.settle(edge.at + (edge.rises ? 1 : Math.floor(pulse / 2)));
    edges.push([edge, ...walk.risesBetween(edge.at, settled?.from ?? noiseFrom)]);
  }
  placeFaintSteps(stretches, edges, { levels: trace.levelsDb, noise, sums, pulse });
  return { stretches, edges, noise, sums, pulse, noiseFrom };
}

/**
 * The first stretch from which on there is no backscatter: more than half of its points are no stronger than noise. What reflects behind the
 * end stands alone in the noise.
 */
function whereNoiseBegins(levels: Float64Array, noise: TraceNoise, pulse: number): number {
  const length = Math.max(8, 2 * pulse);
  const weak = levelOf(SEEN_SD * noise.power);
  let below = 0;
  for (let i = 0; i < levels.length; i++) {
    if (levels[i]! < weak) below += 1;
    if (i >= length && levels[i - length]! < weak) below -= 1;
    if (i >= length - 1 && below > length / 2) return i - length + 1;
  }
  return levels.length;
}

class Walk {
  private readonly levels: Float64Array;
  private readonly steepest: number;
  /** Points that make a line. */
  private readonly least: number;

  constructor(
    trace: Trace,
    private readonly noise: TraceNoise,
    private readonly sums: RunningSums,
    private readonly pulse: number,
    private readonly noiseFrom: number,
  ) {
    this.levels = trace.levelsDb;
    this.least = Math.max(LEAST_LINE, pulse);
    this.steepest = (STEEPEST_DB_KM / 1000) * trace.spacingM;
  }

  /** The first place after `at` from which on the trace is a line; null when it is none any more. */
  settle(at: number): { readonly from: number } | null {
    const length = this.least;
    for (let from = at + 1; from + length <= this.noiseFrom; from++) {
      const line = this.sums.line(from, from + length);
      const sd = sdAt(this.noise, line.level);
      const slopeSd = sd / Math.sqrt(line.sxx);
      const flat = Math.abs(line.slope) <= this.steepest + 4 * slopeSd;
      if (flat && line.slope <= 4 * slopeSd + this.steepest / 10 && line.sd <= 1.6 * sd + LEAST_DB / 40)
        return { from };
    }
    return null;
  }

  /** Follows the line that begins here until a mean leaves it: `seen` says which. */
  follow(from: number): Followed {
    const { levels, noiseFrom } = this;
    let to = from + this.least;
    let line = this.sums.line(from, to);
    let next = to;
    const least = new Float64Array(MEANS);
    let means = LEAST_MEANS;
    for (; to < noiseFrom; to++) {
      if (to >= next) {
        // The line is kept for a while: fitting it at each point would cost more and say the same.
        line = this.sums.line(from, to);
        next = to + Math.max(1, Math.floor((to - from) / 16));
        means = this.meansFor(levelAt(line, to));
        for (let k = 0; k < means; k++) least[k] = this.leastOff(line, to, 1 << k);
      }
      const start = line.level - line.slope * line.centre;
      if (Math.abs(levels[to]! - (start + line.slope * to)) > least[0]!) {
        return { from, to, line, seen: { n: 1, off: levels[to]! - (start + line.slope * to) } };
      }
      // Means of many points change little from one point to the next: a quarter of their length apart is enough.
      for (let k = 1; k < means; k++) {
        const n = 1 << k;
        if ((to & (Math.max(1, n >> 2) - 1)) !== 0 || to + n > noiseFrom) continue;
        const off = this.sums.mean(to, to + n) - (start + line.slope * (to + (n - 1) / 2));
        if (Math.abs(off) > least[k]!) return { from, to, line, seen: { n, off } };
      }
    }
    return { from, to, line, seen: null };
  }

  /** How many lengths of means show what is wanted at a level. */
  private meansFor(levelDb: number): number {
    const points = ((LEAVES_SD * sdAt(this.noise, levelDb)) / WANTED_DB) ** 2;
    return Math.min(MEANS, Math.max(LEAST_MEANS, Math.ceil(Math.log2(Math.max(1, points))) + 1));
  }

  /** How far a mean of `n` points from a place on has to lie off the line. */
  private leastOff(line: Line, at: number, n: number): number {
    const x = at + (n - 1) / 2;
    const sd = sdAt(this.noise, levelAt(line, x));
    return Math.max(LEAST_DB, LEAVES_SD * Math.hypot(sd / Math.sqrt(n), uncertaintyAt(line, x, sd)));
  }

  /** Where the trace leaves a line that was followed up to `to`; null where it sinks into the noise without an edge. */
  edgeAfter({ line, to, seen }: Followed): Edge | null {
    if (!seen) return this.dropIntoNoise(line, to);
    // A long mean sees ahead of itself: what it saw begins where a short one sees it too.
    let at = to;
    for (let n = seen.n; n > 1; n = Math.floor(n / 2)) {
      const half = Math.floor(n / 2);
      const first = this.sums.mean(at, at + half) - levelAt(line, at + (half - 1) / 2);
      if (Math.abs(first) < Math.abs(seen.off) / 2) at += half;
    }
    const rises = this.highest(line, at) > this.settledOff(line, at) + LEAST_RISE_DB / 2 && seen.off > 0;
    return { at: rises ? this.firstAbove(line, at) : this.middleOfFall(line, at), rises };
  }

  /** Where it falls from well above the noise into it: an end that sends nothing back. Null where it sinks. */
  private dropIntoNoise(line: Line, to: number): Edge | null {
    if (powerOf(levelAt(line, to)) < DROP_SD * this.noise.power) return null;
    for (let i = Math.max(0, to - this.least); i < this.levels.length; i++) {
      const wanted = levelAt(line, i);
      const least = Math.max(LEAST_DB, LEAVES_SD * sdAt(this.noise, wanted));
      if (wanted - this.sums.mean(i, Math.min(this.levels.length, i + 3)) <= least) continue;
      // The mean sees it up to two points ahead.
      for (let j = i; j < i + 2; j++)
        if (wanted - this.levels[j]! > least / 2) return { at: j, rises: false };
      return { at: i + 2, rises: false };
    }
    return null;
  }

  /** The highest that a pulse from here comes above the line. */
  private highest(line: Line, at: number): number {
    let most = -Infinity;
    for (let i = at; i < Math.min(this.noiseFrom, at + 2 * this.pulse + 4); i++)
      most = Math.max(most, this.levels[i]! - levelAt(line, i));
    return most;
  }
  private settledOff(line: Line, at: number): number {
    const settled = this.settle(at + this.pulse);
    if (!settled) return -Infinity;
    return (
      this.sums.mean(settled.from, settled.from + this.least) -
      levelAt(line, settled.from + (this.least - 1) / 2)
    );
  }

  /** The first point that a pulse has raised. */
  private firstAbove(line: Line, at: number): number {
    for (let i = Math.max(0, at - this.pulse); i < at + this.pulse; i++) {
      const wanted = levelAt(line, i);
      if (this.levels[i]! - wanted > Math.max(LEAST_DB, 4.5 * sdAt(this.noise, wanted))) return i;
    }
    return at;
  }

  /** A step spreads over a pulse: its leading edge lies half a pulse before the middle of the fall. */
  private middleOfFall(line: Line, at: number): number {
    const after = this.settledOff(line, at);
    if (!Number.isFinite(after)) return at;
    const n = Math.max(1, Math.floor(this.pulse / 3));
    const from = Math.max(0, at - this.pulse);
    for (let i = from; i + n < Math.min(this.noiseFrom, at + 3 * this.pulse + n); i++) {
      const off = this.sums.mean(i, i + n) - levelAt(line, i + (n - 1) / 2);
      if (off * Math.sign(after) >= Math.abs(after) / 2)
        return Math.max(0, Math.round(i + (n - 1) / 2 - this.pulse / 2));
    }
    return at;
  }

  /** Rises that begin anew between two places: further reflections that no line parts from the first. */
  risesBetween(from: number, to: number): Edge[] {
    const found: Edge[] = [];
    for (let i = from + 2; i + 1 < to; i++) {
      const step = this.levels[i + 1]! - this.levels[i]!;
      const before = this.levels[i]! - this.levels[i - 1]!;
      const least = Math.max(LEAST_RISE_DB, LEAVES_SD * Math.SQRT2 * sdAt(this.noise, this.levels[i]!));
      if (step > least && before < ANEW * step) found.push({ at: i + 1, rises: true });
    }
    return found;
  }
}
