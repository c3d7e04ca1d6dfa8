import type { ListedEvent, TraceAnalysis, TraceEvent } from '@clear-mark/core';

/** An event of ours beside what the file lists there; one of the two may be missing. */
export interface EventRow {
  readonly key: string;
  readonly positionM: number;
  /** Its place among our own events; null where the file alone lists it. */
  readonly index: number | null;
  readonly own: TraceEvent | null;
  readonly listed: ListedEvent | null;
  /** Of an event that reads as one with its neighbours: what they lose together. */
  readonly together: { readonly lossDb: number; readonly count: number } | null;
}

/** Ours and the file's, by place; the same event lies within `withinM`. */
export function eventRows(
  { events, joined }: TraceAnalysis,
  table: readonly ListedEvent[],
  withinM: number,
): EventRow[] {
  const left = [...table];
  const own = events.map((event, index): EventRow => {
    const near = left
      .filter((l) => Math.abs(l.positionM - event.positionM) <= withinM)
      .sort((a, b) => Math.abs(a.positionM - event.positionM) - Math.abs(b.positionM - event.positionM))[0];
    if (near) left.splice(left.indexOf(near), 1);
    const group = joined.find((j) => event.positionM >= j.fromM && event.positionM <= j.toM);
    const count = group
      ? events.filter((e) => e.positionM >= group.fromM && e.positionM <= group.toM).length
      : 0;
    return {
      key: `own${index}`,
      positionM: event.positionM,
      index,
      own: event,
      listed: near ?? null,
      together: group ? { lossDb: group.lossDb, count } : null,
    };
  });
  const only = left.map((listed, i): EventRow => ({
    key: `file${i}`,
    positionM: listed.positionM,
    index: null,
    own: null,
    listed,
    together: null,
  }));
  return [...own, ...only].sort((a, b) => a.positionM - b.positionM);
}

const APART_DB = 0.05;

/** What the two do not agree on, in words; empty where they do, or the file lists nothing. */
export function differenceWords({ own, listed }: EventRow, fileLists: boolean): string {
  if (!fileLists) return '';
  if (!own) return 'only in the file';
  if (!listed) return own.ghost ? '' : 'not in the file';
  if (own.ghost) return 'a ghost, listed in the file as an event';
  if (own.kind !== listed.kind) return 'another kind in the file';
  if (own.lossDb !== null && own.kind !== 'end' && Math.abs(own.lossDb - listed.lossDb) > APART_DB) {
    return `${Math.abs(own.lossDb - listed.lossDb).toFixed(2)} dB apart`;
  }
  return '';
}
