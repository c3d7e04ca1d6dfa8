import { crc32, deflateSync } from 'node:zlib';

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const GREY = 0x99;

/**
 * A picture of one grey, so many pixels wide and high: what stands in place of one that was erased, so that whatever is drawn
 * over it keeps its measures. Source: Portable Network Graphics specification, third edition (W3C), sections 5 and 11.
 */
export function greyPng(width: number, height: number): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  // 8 bits a pixel, colour type 0: greyscale.
  head[8] = 8;
  const line = Buffer.alloc(width + 1, GREY);
  line[0] = 0;
  const lines = Buffer.alloc((width + 1) * height);
  for (let y = 0; y < height; y += 1) line.copy(lines, y * (width + 1));
  return Buffer.concat([
    SIGNATURE,
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(lines)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const framed = Buffer.alloc(body.length + 8);
  framed.writeUInt32BE(data.length, 0);
  body.copy(framed, 4);
  framed.writeUInt32BE(crc32(body), body.length + 4);
  return framed;
}
