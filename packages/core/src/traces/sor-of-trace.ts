import { BlockWriter } from './record.ts';
import type { SorBlock, SorEvent, SorFile } from './sor-file.ts';
import { type ListedEvent, ticksOf, type Trace } from './trace.ts';
import { sorOf } from './write-sor.ts';

/** What a new file says beside its points. */
export interface TraceLabels {
  readonly cableId: string;
  readonly fiberId: string;
  readonly from: string;
  readonly to: string;
  readonly operator: string;
  readonly comment: string;
  /** Seconds since 1970. */
  readonly takenAtS: number;
}

const NO_TEXT = '';
const SPACING_OF = 10_000;
const STEPS_A_DB = 1000;

/**
 * A trace as a file of the published layout, with a table of events and marks of the link where they are given. Levels are kept to
 * 0.001 dB. Error: `trace.bad_value` of what its field cannot hold.
 */
export function sorOfTrace(
  trace: Trace,
  labels: TraceLabels,
  table: readonly ListedEvent[] = [],
  marksM: readonly number[] = [],
): SorFile {
  const { groupIndex, levelsDb } = trace;
  const ticks = (metres: number): number => Math.round(ticksOf(metres, groupIndex));
  const { cableId, fiberId, from, to, operator, comment } = labels;
  const none = { language: 'EN', cableCode: NO_TEXT, condition: 'BC', userOffset: 0, userOffsetDistance: 0 };
  const file = sorOf({
    general: {
      ...none,
      cableId,
      fiberId,
      fiberType: 652,
      wavelengthNm: Math.round(trace.wavelengthNm),
      from,
      to,
      operator,
      comment,
    },
    supplier: null,
    fixed: {
      ...NO_WINDOW,
      seconds: labels.takenAtS,
      units: 'mt',
      tenthsNm: Math.round(trace.wavelengthNm * 10),
      offset: ticks(trace.firstM),
      offsetDistance: 0,
      pulsesNs: [trace.pulseNs],
      spacings: [Math.round(ticksOf(trace.spacingM, groupIndex) * SPACING_OF)],
      points: [levelsDb.length],
      groupIndex: Math.round(groupIndex * 1e5),
      backscatter: Math.round(-(trace.backscatterDb ?? 0) * 10),
      averages: trace.averages,
      averagingTenths: 0,
      range: ticks(levelsDb.length * trace.spacingM),
      rangeDistance: 0,
      frontPanel: 0,
      noiseFloor: 0,
      noiseFloorScale: STEPS_A_DB,
      powerOffset: 0,
      lossThreshold: 0,
      reflectanceThreshold: 0,
      endThreshold: 0,
      traceType: 'ST',
    },
    events: table.map((e, i) => listed(e, i + 1, ticks)),
    endToEnd: null,
    traces: [{ scale: 1000, values: Uint16Array.from(levelsDb, (v) => Math.round(-v * STEPS_A_DB)) }],
  });
  if (marksM.length === 0) return file;
  const at = file.blocks.findIndex((b) => b.name === 'DataPts');
  return {
    ...file,
    blocks: [...file.blocks.slice(0, at), marksBlock(marksM.map(ticks)), ...file.blocks.slice(at)],
  };
}

const NO_WINDOW = { windowX1: 0, windowY1: 0, windowX2: 0, windowY2: 0 };

function listed(event: ListedEvent, number: number, ticks: (metres: number) => number): SorEvent {
  const first = event.saturated ? '2' : event.reflectanceDb === null ? '0' : '1';
  const time = ticks(event.positionM);
  return {
    number,
    time,
    slope: 0,
    loss: Math.round(event.lossDb * 1000),
    reflectance: Math.round((event.reflectanceDb ?? 0) * 1000),
    kind: `${first}${event.kind === 'end' ? 'E' : 'F'}9999`,
    method: 'LS',
    endOfPrevious: time,
    start: time,
    end: time,
    startOfNext: time,
    peak: time,
    comment: event.comment,
  };
}

/** As `linkMarks` reads them. */
function marksBlock(times: readonly number[]): SorBlock {
  const writer = new BlockWriter(2).number('i16', times.length);
  for (const [i, time] of times.entries()) {
    writer
      .number('i16', i + 1)
      .chars('OD', 2)
      .number('i32', time)
      .raw(new Uint8Array(22));
    writer.chars('mt', 2).number('i16', 0).text('');
  }
  return { name: 'LnkParams', revision: 200, content: writer.bytes() };
}
