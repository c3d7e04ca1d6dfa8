const POLYNOMIAL = 0x1021;

const TABLE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let rest = byte << 8;
  for (let bit = 0; bit < 8; bit++) rest = (rest & 0x8000 ? (rest << 1) ^ POLYNOMIAL : rest << 1) & 0xffff;
  return rest;
});

/**
 * The 16-bit cyclic redundancy check of a trace file: polynomial 1021h (ITU-T V.41), start FFFFh, no reflection, no final change;
 * catalogued as CRC-16/IBM-3740, whose check value over the digits 1 to 9 is 29B1h. `to` is the first byte that is left out.
 * That SR-4731 files use it so is from memory.
 */
export function crc16(bytes: Uint8Array, to = bytes.length): number {
  let rest = 0xffff;
  for (let i = 0; i < to; i++) rest = ((rest << 8) & 0xffff) ^ TABLE[(rest >> 8) ^ bytes[i]!]!;
  return rest;
}
