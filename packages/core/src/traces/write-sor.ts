import { crc16 } from './crc16.ts';
import { BlockWriter, fromLatin1, joined } from './record.ts';
import {
  END_TO_END_ROWS,
  EVENT_ROWS,
  FIXED_HEAD_ROWS,
  FIXED_TAIL_ROWS,
  GENERAL_ROWS,
  SUPPLIER_ROWS,
} from './sor-blocks.ts';
import type { SorBlock, SorContent, SorFile } from './sor-file.ts';

const REVISION = 200;

/**
 * The bytes of a trace file of its blocks, each as it is, with a new map and a new checksum: a file that was read and not
 * changed comes out as it was. Layout as `readSor` says.
 */
export function writeSor({
  revision,
  mapRevision,
  blocks,
}: Pick<SorFile, 'revision' | 'mapRevision' | 'blocks'>): Uint8Array {
  const own = blocks.filter((b) => b.name !== 'Cksum');
  const checked = blocks.find((b) => b.name === 'Cksum') ?? { name: 'Cksum', revision: REVISION };
  const all = [...own, { ...checked, content: new Uint8Array(2) }];
  const wholes = all.map((b) =>
    revision === 2 ? joined([fromLatin1(`${b.name}\0`), b.content]) : b.content,
  );
  const list = new BlockWriter(revision);
  for (const [i, block] of all.entries()) {
    list.text(block.name).number('u16', block.revision).number('i32', wholes[i]!.length);
  }
  const listed = list.bytes();
  const head = new BlockWriter(revision);
  if (revision === 2) head.text('Map');
  const mapBytes = (revision === 2 ? 4 : 0) + 2 + 4 + 2 + listed.length;
  head
    .number('u16', mapRevision)
    .number('i32', mapBytes)
    .number('i16', all.length + 1);
  const bytes = joined([head.bytes(), listed, ...wholes]);
  const check = crc16(bytes, bytes.length - 2);
  bytes[bytes.length - 2] = check & 0xff;
  bytes[bytes.length - 1] = check >> 8;
  return bytes;
}

/** A new file of what it is to say, in revision 2. Error: `trace.bad_value` of a number that its field cannot hold. */
export function sorOf(content: SorContent): SorFile {
  return { revision: 2, mapRevision: REVISION, blocks: sorBlocks(content), ...content };
}

function sorBlocks({ general, supplier, fixed, events, endToEnd, traces }: SorContent): SorBlock[] {
  const block = (name: string, fill: (writer: BlockWriter) => void): SorBlock => {
    const writer = new BlockWriter(2);
    fill(writer);
    return { name, revision: REVISION, content: writer.bytes() };
  };
  return [
    block('GenParams', (w) => w.record(GENERAL_ROWS, general)),
    ...(supplier ? [block('SupParams', (w) => w.record(SUPPLIER_ROWS, supplier))] : []),
    block('FxdParams', (w) =>
      w
        .record(FIXED_HEAD_ROWS, fixed)
        .number('i16', fixed.pulsesNs.length)
        .numbers('i16', fixed.pulsesNs)
        .numbers('i32', fixed.spacings)
        .numbers('i32', fixed.points)
        .record(FIXED_TAIL_ROWS, fixed),
    ),
    block('KeyEvents', (w) => {
      w.number('i16', events.length);
      for (const event of events) w.record(EVENT_ROWS, event);
      if (endToEnd) w.record(END_TO_END_ROWS, endToEnd);
    }),
    block('DataPts', (w) => {
      w.number(
        'i32',
        traces.reduce((sum, t) => sum + t.values.length, 0),
      ).number('i16', traces.length);
      for (const { scale, values } of traces)
        w.number('i32', values.length).number('i16', scale).raw(wordsOf(values));
    }),
    { name: 'Cksum', revision: REVISION, content: new Uint8Array(2) },
  ];
}

function wordsOf(values: Uint16Array): Uint8Array {
  const bytes = new Uint8Array(2 * values.length);
  for (let i = 0; i < values.length; i++) {
    bytes[2 * i] = values[i]! & 0xff;
    bytes[2 * i + 1] = values[i]! >> 8;
  }
  return bytes;
}
