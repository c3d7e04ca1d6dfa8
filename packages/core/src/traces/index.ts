export { acrossWavelengths, type AtWavelength, type PlaceAcross } from './across-wavelengths.ts';
export {
  analyseTrace,
  type JoinedEvents,
  type TraceAnalysis,
  type TraceEvent,
  type TraceEventKind,
  type TraceSpan,
} from './analyse-trace.ts';
export {
  type PlaceNote,
  type PlannedPart,
  type PlannedPlace,
  traceAgainstPlan,
  type TraceAgainstPlan,
} from './against-plan.ts';
export {
  judgeTraceReading,
  MARK_KINDS,
  readSeries,
  type ReadTrace,
  type SeriesReading,
  type TraceMark,
  type TraceMarkKind,
  type TraceReading,
  type TrueEvent,
} from './judge-reading.ts';
export {
  lossByMarkers,
  MARKER_PROBLEMS,
  type MarkerLoss,
  type MarkerProblem,
  type Markers,
  type TraceWindow,
} from './markers.ts';
export { traceSetUp, type TraceSetUp } from './trace-set-up.ts';
export { traceCauses, type TraceCause } from './trace-causes.ts';
export { returnLoss, type ReturnLoss } from './return-loss.ts';
export {
  traceDifference,
  type TraceGroups,
  traceGroups,
  type TraceOutline,
  traceOutline,
} from './trace-outline.ts';
export { LEAVES_SD, markWithinM, pulseMetres, sameEventM } from './find-events.ts';
export { canBeGhost, type Reflector } from './ghosts.ts';
export { type IncompleteWhy, type LinkLoss, linkLoss } from './link-loss.ts';
export { openTraceFile, type OpenedTraceFile } from './open-trace-file.ts';
export { linkBetweenCords, linkOnTrace, type LinkRange } from './cords.ts';
export { type EventLimits, judgeTraceEvents } from './judge-events.ts';
export { linkMarks } from './link-marks.ts';
export { BLOCK_FAULTS, type BlockFault } from './record.ts';
export { crc16 } from './crc16.ts';
export { MOST_TRACE_BYTES, MOST_TRACE_POINTS, readSor } from './read-sor.ts';
export type {
  SorBlock,
  SorContent,
  SorEndToEnd,
  SorEvent,
  SorFile,
  SorFixed,
  SorGeneral,
  SorPoints,
  SorSupplier,
} from './sor-file.ts';
export {
  LIGHT_M_S,
  type ListedEvent,
  listedEvents,
  metresOf,
  ticksOf,
  type Trace,
  tracesIn,
} from './trace.ts';
export { traceFromCsv, traceFromJson, traceToCsv, traceToJson } from './own-formats.ts';
export { sorOfTrace, type TraceLabels } from './sor-of-trace.ts';
export {
  type TracesFromBothEnds,
  tracesFromBothEnds,
  type EventFromBothEnds,
} from './traces-from-both-ends.ts';
export { sorOf, writeSor } from './write-sor.ts';
