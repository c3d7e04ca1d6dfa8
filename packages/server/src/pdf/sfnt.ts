import { inflateSync } from 'node:zlib';

const WOFF = 0x774f4646;
const WOFF_HEAD = 44;
const WOFF_ENTRY = 20;
const SFNT_HEAD = 12;
const SFNT_ENTRY = 16;

/**
 * A typeface out of its WOFF file as plain sfnt, so that it is unpacked once for all documents of a process, by the machine's own
 * inflate. Source: WOFF File Format 1.0 (W3C), sections 3 to 5; the head of an sfnt by OpenType, "Organization of an OpenType Font".
 * Error: a `RangeError` where it is no WOFF.
 */
export function sfntOf(woff: Buffer): Buffer {
  if (woff.length < WOFF_HEAD || woff.readUInt32BE(0) !== WOFF) throw new RangeError('no WOFF file');
  const count = woff.readUInt16BE(12);
  const head = Buffer.alloc(SFNT_HEAD + count * SFNT_ENTRY);
  head.writeUInt32BE(woff.readUInt32BE(4), 0);
  head.writeUInt16BE(count, 4);
  const largest = 2 ** Math.floor(Math.log2(count));
  head.writeUInt16BE(largest * 16, 6);
  head.writeUInt16BE(Math.log2(largest), 8);
  head.writeUInt16BE((count - largest) * 16, 10);
  const tables: Buffer[] = [];
  let at = head.length;
  for (let i = 0; i < count; i += 1) {
    const entry = WOFF_HEAD + i * WOFF_ENTRY;
    const [offset, packed, length] = [4, 8, 12].map((field) => woff.readUInt32BE(entry + field)) as [
      number,
      number,
      number,
    ];
    const bytes = woff.subarray(offset, offset + packed);
    const table = packed < length ? inflateSync(bytes) : bytes;
    if (table.length !== length) throw new RangeError('a table of the typeface is cut');
    const place = SFNT_HEAD + i * SFNT_ENTRY;
    // Tag and checksum stand as they are.
    woff.copy(head, place, entry, entry + 4);
    woff.copy(head, place + 4, entry + 16, entry + 20);
    head.writeUInt32BE(at, place + 8);
    head.writeUInt32BE(length, place + 12);
    const padded = Buffer.alloc(Math.ceil(length / 4) * 4);
    table.copy(padded);
    tables.push(padded);
    at += padded.length;
  }
  return Buffer.concat([head, ...tables]);
}
