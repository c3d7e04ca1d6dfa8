import type { Call } from '../scoring/index.ts';
import type { TraceEvent } from './analyse-trace.ts';

export const MARK_KINDS = ['reflective', 'non_reflective', 'end', 'ghost'] as const;
export type TraceMarkKind = (typeof MARK_KINDS)[number];

/** What somebody marked on a trace. */
export interface TraceMark {
  readonly positionM: number;
  readonly kind: TraceMarkKind;
}
/** An event as it is, for what is said of it. */
export type TrueEvent = Pick<TraceEvent, 'positionM' | 'kind' | 'ghost'>;

/** What became of each mark and of each event. */
export interface TraceReading {
  /** Events that were marked, and all that there are, ghosts not among them. */
  readonly found: number;
  readonly events: number;
  /** Of the found ones, those that were named as what they are. */
  readonly named: number;
  /** Marks where nothing is. */
  readonly invented: number;
  /** Ghosts that were marked as events. */
  readonly ghostsCalled: number;
  /** Null where the trace does not show its end. */
  readonly endFound: boolean | null;
  readonly marks: readonly ('right' | 'other_kind' | 'ghost' | 'nothing')[];
  /** Places of the events that nobody marked. */
  readonly missedM: readonly number[];
}

/**
 * Marks of a trace against its events: each mark belongs to the nearest event within `withinM` that has none yet, nearest pairs first. A
 * ghost that is marked as one is right and adds nothing; one that is not marked is no miss. Example: events at 100 and 250 m, marks at
 * 100.4 and 180 m: one found, one missed, one invented.
 */
export function judgeTraceReading(
  events: readonly TrueEvent[],
  marks: readonly TraceMark[],
  withinM: number,
): TraceReading {
  const pairs = marks
    .flatMap((m, mark) =>
      events.map((e, event) => ({ mark, event, off: Math.abs(m.positionM - e.positionM) })),
    )
    .filter((p) => p.off <= withinM)
    .sort((a, b) => a.off - b.off);
  const eventOf = new Map<number, number>();
  const taken = new Set<number>();
  for (const { mark, event } of pairs) {
    if (eventOf.has(mark) || taken.has(event)) continue;
    eventOf.set(mark, event);
    taken.add(event);
  }
  const said = marks.map(({ kind }, i): TraceReading['marks'][number] => {
    const event = events[eventOf.get(i) ?? -1];
    if (!event) return 'nothing';
    if (event.ghost) return kind === 'ghost' ? 'right' : 'ghost';
    return event.kind === kind ? 'right' : 'other_kind';
  });
  // What was put down as a ghost was not taken for an event.
  const found = events.filter((e, i) => !e.ghost && markedAsEvent(i));
  function markedAsEvent(event: number): boolean {
    return marks.some((m, i) => eventOf.get(i) === event && m.kind !== 'ghost');
  }
  const real = events.filter((e) => !e.ghost);
  const end = events.findIndex((e) => e.kind === 'end');
  return {
    found: found.length,
    events: real.length,
    named: found.filter((e) => marks.some((m, i) => events[eventOf.get(i) ?? -1] === e && m.kind === e.kind))
      .length,
    invented: said.filter((s, i) => s === 'nothing' && marks[i]!.kind !== 'ghost').length,
    ghostsCalled: said.filter((s) => s === 'ghost').length,
    endFound: end < 0 ? null : marks.some((m, i) => eventOf.get(i) === end && m.kind === 'end'),
    marks: said,
    missedM: real.filter((e) => !found.includes(e)).map((e) => e.positionM),
  };
}

/** A trace of a series, and what was said of it; null where nobody said anything. */
export interface ReadTrace {
  readonly events: readonly TrueEvent[];
  readonly withinM: number;
  readonly reference: Call;
  readonly answer: { readonly marks: readonly TraceMark[]; readonly said: Call } | null;
}
/** A series read by one person. A trace that was not answered has all its events missed, and no verdict. */
export interface SeriesReading {
  readonly traces: number;
  readonly found: number;
  readonly events: number;
  readonly named: number;
  readonly invented: number;
  readonly ghostsCalled: number;
  readonly ends: number;
  readonly endsFound: number;
  readonly verdictsRight: number;
  /** Of those that fail, called passing. */
  readonly badCalledGood: number;
}

/** All readings of a series together. */
export function readSeries(traces: readonly ReadTrace[]): SeriesReading {
  const readings = traces.map((t) => judgeTraceReading(t.events, t.answer?.marks ?? [], t.withinM));
  const sum = (of: (reading: TraceReading) => number): number => readings.reduce((n, r) => n + of(r), 0);
  return {
    traces: traces.length,
    found: sum((r) => r.found),
    events: sum((r) => r.events),
    named: sum((r) => r.named),
    invented: sum((r) => r.invented),
    ghostsCalled: sum((r) => r.ghostsCalled),
    ends: sum((r) => (r.endFound === null ? 0 : 1)),
    endsFound: sum((r) => (r.endFound === true ? 1 : 0)),
    verdictsRight: traces.filter((t) => t.answer?.said === t.reference).length,
    badCalledGood: traces.filter((t) => t.reference === 'fail' && t.answer?.said === 'pass').length,
  };
}
