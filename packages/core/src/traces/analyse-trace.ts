import { type Found, findEvents, LEAVES_SD, pulseMetres } from './find-events.ts';
import { canBeGhost, type Reflector } from './ghosts.ts';
import type { Edge, Stretch } from './stretches.ts';
import { joinLines, levelAt, type Line, uncertaintyAt } from './running-line.ts';
import type { Trace } from './trace.ts';
import { sdAt } from './trace-noise.ts';

export type TraceEventKind = 'reflective' | 'non_reflective' | 'end';

/** An event of the trace. */
export interface TraceEvent {
  /** Leading edge, metres from the port. */
  readonly positionM: number;
  readonly kind: TraceEventKind;
  /** By two lines carried to the position; negative for a gain. Null at the end, and where no line parts it from its neighbour. */
  readonly lossDb: number | null;
  readonly uLossDb: number | null;
  readonly reflectanceDb: number | null;
  /** Its peak stands at the strongest level that the trace has, so that more cannot be told. */
  readonly saturated: boolean;
  /** How far behind it the trace does not lie on a line again: what lies nearer reads as one with it. Null at the end. */
  readonly deadZoneM: number | null;
  /** It loses nothing and lies where stronger reflections send their light twice. */
  readonly ghost: boolean;
}
/** Fiber between events. */
export interface TraceSpan {
  readonly fromM: number;
  readonly toM: number;
  /** Null where there are too few points between the events. */
  readonly dbPerKm: number | null;
}
/** Events that read as one, with what they lose together. */
export interface JoinedEvents {
  readonly fromM: number;
  readonly toM: number;
  readonly lossDb: number;
  readonly uLossDb: number;
}
export interface TraceAnalysis {
  readonly events: readonly TraceEvent[];
  readonly spans: readonly TraceSpan[];
  readonly joined: readonly JoinedEvents[];
  /** The lines that were fitted, by the metres from which to which: for whoever carries one to a place. */
  readonly lines: readonly { readonly fromM: number; readonly toM: number; readonly line: Line }[];
  /** Whether the end of the fiber is on the trace. */
  readonly endSeen: boolean;
}

/** No loss, to what the lines leave open. */
const NO_LOSS_DB = 0.03;
const SURE_SD = 4;
/** Less than this is no event, unless it reflects. */
const LEAST_LOSS_DB = 0.02;
/** Of the points of a pulse, those at the strongest level of a trace that was cut off there. */
const SATURATED_SHARE = 0.7;
const LEAST_SATURATED = 3;

/**
 * Events, spans and losses of a trace from its points alone: lines of backscatter by least squares, their ends found where the points leave
 * them (`findEvents`), losses by two lines carried to the leading edge, reflectances by height and pulse, ghosts by the arithmetic of
 * distances. Example: a connector of 0.25 dB between two lines of 0.34 dB/km gives 0.25 dB at any place of the pulse.
 */
export function analyseTrace(trace: Trace): TraceAnalysis {
  const found = findEvents(trace);
  const places = withoutNothing(placesOf(found), found);
  const at = (i: number): number => trace.firstM + i * trace.spacingM;
  // The leading edge lies between the last point before it and the first that it moved.
  const edgeAt = ({ at: i }: Edge): number => at(i - 0.5);
  const measured = places.map((p) => ({ place: p, events: eventsOf(trace, found, p, edgeAt) }));
  const reflectors: Reflector[] = [{ positionM: 0, reflectanceDb: null }];
  const marked = measured.map(({ place, events }) => ({
    place,
    events: events.map((e) => {
      const ghost = isGhost(e, reflectors, trace);
      if (e.kind !== 'non_reflective' && !ghost) reflectors.push(e);
      return { ...e, ghost };
    }),
  }));
  const real = withoutGhosts(marked);
  return {
    events: marked.flatMap((m) => m.events),
    spans: spansOf(real, trace, edgeAt),
    joined: joinedOf(real, edgeAt),
    lines: linesOf(found, at),
    endSeen: places.at(-1)?.right === null,
  };
}

/** Edges that read as one, between the line before and the line after them. */
interface Place {
  readonly edges: readonly Edge[];
  /** The point from which on the trace lies on the line after them; null after the end. */
  readonly settledAt: number | null;
  readonly left: Line;
  /** Null after the end. */
  readonly right: Line | null;
}

const placesOf = ({ stretches, edges }: Found): Place[] =>
  edges.map((at, i) => ({
    edges: at,
    settledAt: stretches[i + 1]?.from ?? null,
    left: stretches[i]!.line,
    right: stretches[i + 1]?.line ?? null,
  }));

interface Step {
  readonly lossDb: number;
  readonly uLossDb: number;
}

/** What is lost between two lines at a place, with the uncertainty of both lines there. */
function stepAt(left: Line, right: Line, x: number, found: Found): Step {
  const before = levelAt(left, x);
  const after = levelAt(right, x);
  const u = (line: Line, level: number): number =>
    uncertaintyAt(line, x, Math.max(line.sd, sdAt(found.noise, level)));
  return { lossDb: before - after, uLossDb: Math.hypot(u(left, before), u(right, after)) };
}

/** A ghost parts no fiber: what lies on both sides of it is one line. */
function withoutGhosts(
  marked: readonly { readonly place: Place; readonly events: readonly TraceEvent[] }[],
): Place[] {
  const kept: Place[] = [];
  let left: Line | null = null;
  for (const { place, events } of marked) {
    const own: Place = left ? { ...place, left } : place;
    const isOnlyGhost = events.length === 1 && events[0]!.ghost && own.right !== null;
    left = isOnlyGhost ? joinLines(own.left, own.right!) : null;
    if (!isOnlyGhost) kept.push(own);
  }
  return kept;
}

/** Whether the mean of a pulse after a rise lies above the line, and not only single points of it. */
function standsOut(left: Line, { at }: Edge, { sums, noise, pulse, noiseFrom }: Found): boolean {
  const to = Math.min(noiseFrom, at + Math.max(2, pulse));
  if (to <= at) return true;
  const wanted = levelAt(left, (at + to - 1) / 2);
  return sums.mean(at, to) - wanted > (LEAVES_SD * sdAt(noise, wanted)) / Math.sqrt(to - at);
}

/** Falls and rises that turn out to be nothing are taken away, and the lines on both sides become one. */
function withoutNothing(places: readonly Place[], found: Found): Place[] {
  const kept: Place[] = [];
  let left: Line | null = null;
  for (const place of places) {
    const own: Place = left ? { ...place, left } : place;
    left = null;
    const [edge] = own.edges;
    if (own.right && own.edges.length === 1 && !(edge!.rises && standsOut(own.left, edge!, found))) {
      const { lossDb, uLossDb } = stepAt(own.left, own.right, edge!.at, found);
      if (Math.abs(lossDb) < Math.max(LEAST_LOSS_DB, SURE_SD * uLossDb)) {
        left = joinLines(own.left, own.right);
        continue;
      }
    }
    kept.push(own);
  }
  return kept;
}

function eventsOf(
  trace: Trace,
  found: Found,
  { edges, left, right, settledAt }: Place,
  edgeAt: (edge: Edge) => number,
): TraceEvent[] {
  return edges.map((edge, i): TraceEvent => {
    const step = right && edges.length === 1 ? stepAt(left, right, edge.at - 0.5, found) : null;
    const isEnd = right === null && i === edges.length - 1;
    const next = edges[i + 1]?.at ?? Infinity;
    return {
      positionM: edgeAt(edge),
      kind: isEnd ? 'end' : edge.rises ? 'reflective' : 'non_reflective',
      lossDb: step?.lossDb ?? null,
      uLossDb: step?.uLossDb ?? null,
      // On top of another pulse it stands on a level that nobody measured.
      reflectanceDb: edge.rises && i === 0 ? reflectanceOf(trace, found, edge, next, left) : null,
      saturated: edge.rises && isSaturated(trace, found, edge, next),
      deadZoneM:
        isEnd || settledAt === null
          ? null
          : (Math.min(next, Math.max(settledAt, edge.at)) - edge.at + 0.5) * trace.spacingM,
      ghost: false,
    };
  });
}

/** The points that a pulse holds up. */
const plateauOf = ({ levelsDb }: Trace, { pulse }: Found, edge: Edge, next: number): Float64Array =>
  levelsDb.slice(edge.at, Math.max(edge.at + 1, Math.min(edge.at + pulse + 1, next, levelsDb.length)));

/**
 * Reflectance by the height H over the backscatter: B + 10 lg D + 10 lg(10^(H/5) - 1) with B the backscatter of 1 ns and D the pulse in ns
 * (common practice; the definition of the backscatter coefficient). Null where the file says no B.
 */
function reflectanceOf(trace: Trace, found: Found, edge: Edge, next: number, left: Line): number | null {
  if (trace.backscatterDb === null) return null;
  const points = plateauOf(trace, found, edge, next).sort();
  // The upper half is where the receiver has risen; its middle is moved by noise less than its highest point.
  const top = points[Math.floor((3 * (points.length - 1)) / 4)]!;
  const height = top - levelAt(left, edge.at);
  if (height <= 0) return null;
  return trace.backscatterDb + 10 * Math.log10(trace.pulseNs) + 10 * Math.log10(10 ** (height / 5) - 1);
}

function isSaturated(trace: Trace, found: Found, edge: Edge, next: number): boolean {
  const points = plateauOf(trace, found, edge, next);
  const strongest = points.filter((v) => v >= 0).length;
  return strongest >= LEAST_SATURATED && strongest >= SATURATED_SHARE * points.length;
}

function isGhost(event: TraceEvent, reflectors: readonly Reflector[], trace: Trace): boolean {
  if (event.kind !== 'reflective' || event.lossDb === null) return false;
  if (Math.abs(event.lossDb) > Math.max(NO_LOSS_DB, SURE_SD * event.uLossDb!)) return false;
  const tolerance = Math.max(2 * trace.spacingM, pulseMetres(trace) / 2);
  return canBeGhost(event, reflectors, tolerance);
}

function spansOf(places: readonly Place[], trace: Trace, edgeAt: (edge: Edge) => number): TraceSpan[] {
  const spans: TraceSpan[] = [];
  let fromM = 0;
  for (const { edges, left } of places) {
    spans.push({ fromM, toM: edgeAt(edges[0]!), dbPerKm: (-left.slope / trace.spacingM) * 1000 });
    for (const [i, edge] of edges.entries()) {
      const next = edges[i + 1];
      if (next) spans.push({ fromM: edgeAt(edge), toM: edgeAt(next), dbPerKm: null });
    }
    fromM = edgeAt(edges.at(-1)!);
  }
  return spans;
}

function joinedOf(places: readonly Place[], edgeAt: (edge: Edge) => number): JoinedEvents[] {
  return places.flatMap(({ edges, left, right }) => {
    if (edges.length < 2 || !right) return [];
    const [first] = edges;
    const x = first!.at - 0.5;
    const lossDb = levelAt(left, x) - levelAt(right, x);
    const uLossDb = Math.hypot(uncertaintyAt(left, x, left.sd), uncertaintyAt(right, x, right.sd));
    return [{ fromM: edgeAt(first!), toM: edgeAt(edges.at(-1)!), lossDb, uLossDb }];
  });
}

const linesOf = ({ stretches }: Found, at: (i: number) => number): TraceAnalysis['lines'] =>
  stretches.map(({ from, to, line }: Stretch) => ({ fromM: at(from), toM: at(to), line }));
