import {
  analyseTrace,
  type IncompleteWhy,
  linkLoss,
  type ListedEvent,
  type OpenedTraceFile,
  openTraceFile,
  sameEventM,
  type Trace,
  type TraceAnalysis,
  type TraceEvent,
} from '@clear-mark/core';
import { problemWords } from './problem-words.ts';

const INCOMPLETE: Readonly<Record<IncompleteWhy, string>> = {
  no_launch_cord: 'without a launch cord the first connector is not in it',
  no_receive_cord: 'without a receive cord the last connector is not in it',
  not_marked: 'the file does not mark where the link begins and ends: this is from the port to the end',
  end_not_seen: 'the end of the fiber is not on the trace',
};
const round = (x: number, digits: number): number => Number(x.toFixed(digits));
const orNull = (x: number | null, digits: number): number | null => (x === null ? null : round(x, digits));

/** What is said of one trace file, as `docs/formats/traces.md` lays it out. */
export function readTraceFile(
  name: string,
  bytes: Uint8Array,
): { readonly ok: boolean } & Record<string, unknown> {
  let opened: OpenedTraceFile;
  try {
    opened = openTraceFile(bytes, name);
  } catch (error) {
    return { file: name, ok: false, reason: problemWords(error), warnings: [] };
  }
  const { traces, table, marksM: marks } = opened;
  const [trace, ...others] = traces as readonly [Trace, ...Trace[]];
  const analysis = analyseTrace(trace);
  const link = linkLoss(trace, analysis, marks.length > 1 ? { fromM: marks[0]!, toM: marks.at(-1)! } : null);
  return {
    file: name,
    ok: true,
    warnings: [
      ...(others.length > 0 ? [`The file holds ${traces.length} traces; this is the first.`] : []),
      ...(link.complete ? launchWarnings(link.fromM, link.toM) : []),
      ...differences(trace, analysis, table),
    ],
    wavelength_nm: trace.wavelengthNm,
    group_index: trace.groupIndex,
    points: trace.levelsDb.length,
    spacing_m: trace.spacingM,
    events: analysis.events.map(eventOut),
    joined: analysis.joined.map((j) => ({
      from_m: round(j.fromM, 3),
      to_m: round(j.toM, 3),
      loss_db: round(j.lossDb, 4),
      u_loss_db: round(j.uLossDb, 6),
    })),
    spans: analysis.spans.map((s) => ({
      from_m: round(s.fromM, 3),
      to_m: round(s.toM, 3),
      db_per_km: orNull(s.dbPerKm, 4),
    })),
    link: {
      from_m: round(link.fromM, 3),
      to_m: round(link.toM, 3),
      loss_db: orNull(link.lossDb, 4),
      u_loss_db: orNull(link.uLossDb, 6),
      complete: link.complete,
      ...(link.why === null ? {} : { why: INCOMPLETE[link.why] }),
    },
    table: table.map((e) => ({
      position_m: round(e.positionM, 3),
      kind: e.kind,
      loss_db: e.lossDb,
      reflectance_db: e.reflectanceDb,
      saturated: e.saturated,
      comment: e.comment,
    })),
  };
}

const eventOut = (e: TraceEvent): object => ({
  position_m: round(e.positionM, 3),
  kind: e.kind,
  loss_db: orNull(e.lossDb, 4),
  u_loss_db: orNull(e.uLossDb, 6),
  reflectance_db: orNull(e.reflectanceDb, 2),
  saturated: e.saturated,
  ghost: e.ghost,
});

/** A launch cord that is shorter than the link lets its echoes fall into the link. */
const launchWarnings = (fromM: number, toM: number): string[] =>
  fromM < toM - fromM
    ? [
        `The launch cord (${fromM.toFixed(0)} m) is shorter than the link (${(toM - fromM).toFixed(0)} m): ghosts can lie in the link.`,
      ]
    : [];

/** Where our own events and the file's table do not agree. */
function differences(trace: Trace, { events }: TraceAnalysis, table: readonly ListedEvent[]): string[] {
  if (table.length === 0) return [];
  const near = sameEventM(trace);
  const at = (m: number): string => `${m.toFixed(1)} m`;
  const said: string[] = [];
  for (const listed of table) {
    const own = events.find((e) => Math.abs(e.positionM - listed.positionM) <= near);
    if (!own) said.push(`The file lists an event at ${at(listed.positionM)} that is not on the trace.`);
    else if (own.ghost) said.push(`What the file lists at ${at(listed.positionM)} is a ghost.`);
  }
  for (const own of events) {
    if (own.ghost || table.some((l) => Math.abs(l.positionM - own.positionM) <= near)) continue;
    said.push(`The file does not list the event at ${at(own.positionM)}.`);
  }
  return said;
}
