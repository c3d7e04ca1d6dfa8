import { DomainError } from '../domain-error.ts';
import { crc16 } from './crc16.ts';
import { BlockReader } from './record.ts';
import {
  END_TO_END_ROWS,
  EVENT_ROWS,
  FIXED_HEAD_ROWS,
  FIXED_TAIL_ROWS,
  GENERAL_ROWS,
  SUPPLIER_ROWS,
} from './sor-blocks.ts';
import type {
  SorBlock,
  SorContent,
  SorEndToEnd,
  SorEvent,
  SorFile,
  SorFixed,
  SorPoints,
} from './sor-file.ts';

/** No file of a bench is larger; a quarter of a million points are half a megabyte. */
export const MOST_TRACE_BYTES = 16 * 1024 ** 2;
export const MOST_TRACE_POINTS = 262_144;
const MOST_BLOCKS = 100;
const MOST_TRACES = 32;
const MOST_EVENTS = 2000;
const LEAST_POINTS = 2;

/**
 * Reads a trace file (SR-4731, revision 2; revision 1 as far as it goes; layout from memory). Lengths and counts are held to the bytes
 * that are there before anything is read by them, and the checksum to the bytes before it. Errors: `trace.no_trace_file`,
 * `trace.too_large`, `trace.bad_block` with block and why, `trace.checksum`.
 */
export function readSor(bytes: Uint8Array): SorFile {
  requireSize(bytes);
  const layout = blocksOf(bytes);
  requireChecksum(bytes, layout);
  return { ...layout, ...contentOf(layout) };
}

/** Error: `trace.too_large`. */
export function requireSize({ length }: Uint8Array): void {
  if (length <= MOST_TRACE_BYTES) return;
  const most = MOST_TRACE_BYTES / 1024 ** 2;
  throw new DomainError('trace.too_large', { megabytes: Math.ceil(length / 1024 ** 2), most });
}

type Layout = Pick<SorFile, 'revision' | 'mapRevision' | 'blocks'>;

function blocksOf(bytes: Uint8Array): Layout {
  const named = String.fromCharCode(...bytes.subarray(0, 4)) === 'Map\0';
  // The first revision begins with its number, 1.00 to 1.99, and has no names in front of its blocks.
  const number = bytes.length >= 2 ? bytes[0]! | (bytes[1]! << 8) : 0;
  if (!named && !(number >= 100 && number < 200 && bytes.length > 20))
    throw new DomainError('trace.no_trace_file');
  const revision = named ? 2 : 1;
  const map = new BlockReader('Map', bytes, revision);
  if (named) map.text();
  const mapRevision = map.number('u16');
  const mapBytes = map.number('i32');
  const count = map.number('i16');
  if (count < 2 || count > MOST_BLOCKS) throw map.bad('count');
  const listed = Array.from({ length: count - 1 }, () => ({
    name: map.text(),
    revision: map.number('u16'),
    bytes: map.number('i32'),
  }));
  if (bytes.length - map.left !== mapBytes) throw map.bad('length');
  const blocks: SorBlock[] = [];
  let at = mapBytes;
  for (const { name, revision: own, bytes: length } of listed) {
    const whole = new BlockReader(name, bytes.subarray(at), revision);
    if (length < 0 || length > whole.left) throw whole.bad('outside');
    const inside = new BlockReader(name, bytes.subarray(at, at + length), revision);
    if (named && inside.text() !== name) throw inside.bad('name');
    blocks.push({ name, revision: own, content: bytes.subarray(at + length - inside.left, at + length) });
    at += length;
  }
  if (at !== bytes.length) throw new DomainError('trace.bad_block', { block: 'Map', why: 'length' });
  return { revision, mapRevision, blocks };
}

/** Over all bytes before the two that say it. */
function requireChecksum(bytes: Uint8Array, { blocks, revision }: Layout): void {
  const block = blocks.at(-1)!;
  const reader = new BlockReader('Cksum', block.content, revision);
  if (block.name !== 'Cksum') throw reader.bad('missing');
  const said = reader.number('u16');
  if (reader.left > 0) throw reader.bad('length');
  const found = crc16(bytes, bytes.length - 2);
  if (said !== found) throw new DomainError('trace.checksum', { said: hex(said), found: hex(found) });
}
const hex = (n: number): string => n.toString(16).toUpperCase().padStart(4, '0');

function contentOf({ blocks, revision }: Layout): SorContent {
  const reader = (name: string): BlockReader | null => {
    const found = blocks.filter((b) => b.name === name);
    if (found.length > 1) throw new DomainError('trace.bad_block', { block: name, why: 'twice' });
    return found[0] ? new BlockReader(name, found[0].content, revision) : null;
  };
  const needed = (name: string): BlockReader => {
    const found = reader(name);
    if (!found) throw new DomainError('trace.bad_block', { block: name, why: 'missing' });
    return found;
  };
  const general = needed('GenParams').record(GENERAL_ROWS);
  const supplier = reader('SupParams')?.record(SUPPLIER_ROWS) ?? null;
  const fixed = fixedOf(needed('FxdParams'));
  const { events, endToEnd } = eventsOf(reader('KeyEvents'));
  return { general, supplier, fixed, events, endToEnd, traces: tracesOf(needed('DataPts'), fixed) };
}

function fixedOf(block: BlockReader): SorFixed {
  const head = block.record(FIXED_HEAD_ROWS);
  const count = block.number('i16');
  if (count < 1 || count > MOST_TRACES) throw block.bad('count');
  const pulsesNs = block.numbers('i16', count);
  const spacings = block.numbers('i32', count);
  const points = block.numbers('i32', count);
  const tail = block.record(FIXED_TAIL_ROWS);
  if (tail.groupIndex <= 0) throw block.bad('index');
  if (spacings.some((s) => s <= 0)) throw block.bad('spacing');
  if (pulsesNs.some((p) => p <= 0)) throw block.bad('pulse');
  return { ...head, pulsesNs, spacings, points, ...tail };
}

function eventsOf(block: BlockReader | null): { events: SorEvent[]; endToEnd: SorEndToEnd | null } {
  if (!block) return { events: [], endToEnd: null };
  const count = block.number('i16');
  if (count < 0 || count > MOST_EVENTS) throw block.bad('count');
  const events = Array.from({ length: count }, () => block.record(EVENT_ROWS));
  return { events, endToEnd: block.left > 0 ? block.record(END_TO_END_ROWS) : null };
}

function tracesOf(block: BlockReader, fixed: SorFixed): SorPoints[] {
  const all = block.number('i32');
  const count = block.number('i16');
  if (count !== fixed.points.length) throw block.bad('count');
  const traces = fixed.points.map((wanted): SorPoints => {
    const points = block.number('i32');
    const scale = block.number('i16');
    if (points !== wanted) throw block.bad('points');
    if (points < LEAST_POINTS || points > MOST_TRACE_POINTS) throw block.bad('points');
    if (scale <= 0) throw block.bad('scale');
    const raw = block.raw(2 * points);
    const values = new Uint16Array(points);
    for (let i = 0; i < points; i++) values[i] = raw[2 * i]! | (raw[2 * i + 1]! << 8);
    return { scale, values };
  });
  if (all !== traces.reduce((sum, t) => sum + t.values.length, 0)) throw block.bad('points');
  if (block.left > 0) throw block.bad('length');
  return traces;
}
