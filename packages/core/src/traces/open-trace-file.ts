import { linkMarks } from './link-marks.ts';
import { traceFromCsv, traceFromJson } from './own-formats.ts';
import { readSor, requireSize } from './read-sor.ts';
import { type ListedEvent, listedEvents, type Trace, tracesIn } from './trace.ts';

/** A trace file, whatever its layout. */
export interface OpenedTraceFile {
  /** One at least. */
  readonly traces: readonly Trace[];
  /** The events that the file lists; empty where it lists none. */
  readonly table: readonly ListedEvent[];
  /** Landmarks of the file, metres from the port. */
  readonly marksM: readonly number[];
}

const BRACE = 0x7b;
const HASH = 0x23;
const BOM = 0xef;
const WHITE = new Set([0x20, 0x09, 0x0a, 0x0d]);

/**
 * Opens a trace file by the end of its name, where that says `.csv` or `.json`, else by its first byte: `{` is a trace of ours as JSON, `#` one as CSV, all others are held to the published layout.
 * Errors: those of `readSor`, `traceFromJson`, `traceFromCsv`.
 */
export function openTraceFile(bytes: Uint8Array, name = ''): OpenedTraceFile {
  requireSize(bytes);
  let at = bytes[0] === BOM ? 3 : 0;
  while (WHITE.has(bytes[at] ?? 0)) at += 1;
  const first = bytes[at];
  const ending = /\.(csv|json)$/i.exec(name)?.[1]?.toLowerCase();
  if (ending !== undefined || first === BRACE || first === HASH) {
    const isJson = ending === undefined ? first === BRACE : ending === 'json';
    const text = textOf(bytes);
    return { traces: [isJson ? traceFromJson(text) : traceFromCsv(text)], table: [], marksM: [] };
  }
  const file = readSor(bytes);
  return { traces: tracesIn(file), table: listedEvents(file), marksM: linkMarks(file) };
}

const PART = 8192;

/** Our own layouts have no letters beyond ASCII. */
function textOf(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += PART) text += String.fromCharCode(...bytes.subarray(i, i + PART));
  return text;
}
