/** What the first bytes of a picture say of it, before anything is decoded. */
export type PictureHead =
  | { readonly kind: 'png' | 'jpeg'; readonly width: number; readonly height: number }
  | { readonly kind: 'refused'; readonly why: 'format' | 'cut' | 'animated' };

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/**
 * Reads size and kind from the head of a PNG (ISO/IEC 15948) or a JPEG (ITU-T T.81). A size that is only claimed is
 * found out here, so that a picture made to fill the memory is never decoded. Animated PNG is refused: which of its
 * pictures is the face would be a guess.
 */
export function pictureHead(bytes: Uint8Array): PictureHead {
  if (PNG.every((b, i) => bytes[i] === b)) return pngHead(bytes);
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return jpegHead(bytes);
  return { kind: 'refused', why: 'format' };
}

/** The most pixels of a picture that is kept or decoded: a claimed size beyond it is made to fill the memory. */
export const MOST_PIXELS = 40_000_000;

/** Whether the data of a picture go on to its end: the last chunk of a PNG, the end marker of a JPEG. */
export function pictureIsWhole(bytes: Uint8Array): boolean {
  const tail = bytes.subarray(Math.max(0, bytes.length - 64));
  if (bytes[0] === 0x89) return String.fromCharCode(...tail).includes('IEND');
  // Cameras pad after the end marker.
  for (let at = tail.length - 2; at >= 0; at--) if (tail[at] === 0xff && tail[at + 1] === 0xd9) return true;
  return false;
}

function pngHead(bytes: Uint8Array): PictureHead {
  if (bytes.length < 33) return { kind: 'refused', why: 'cut' };
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 8;
  let size: { width: number; height: number } | null = null;
  while (at + 8 <= bytes.length) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'IHDR') size = { width: view.getUint32(at + 8), height: view.getUint32(at + 12) };
    if (type === 'acTL') return { kind: 'refused', why: 'animated' };
    if (type === 'IDAT' && size) break;
    at += 12 + length;
  }
  return size && size.width > 0 && size.height > 0
    ? { kind: 'png', ...size }
    : { kind: 'refused', why: 'cut' };
}

function jpegHead(bytes: Uint8Array): PictureHead {
  const word = (at: number): number => (bytes[at]! << 8) | bytes[at + 1]!;
  let at = 2;
  while (at + 9 < bytes.length) {
    if (bytes[at] !== 0xff) return { kind: 'refused', why: 'cut' };
    const marker = bytes[at + 1]!;
    // Start of frame, of any process; not the tables that lie in the same range.
    const isFrame = marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
    if (isFrame) return { kind: 'jpeg', height: word(at + 5), width: word(at + 7) };
    at += 2 + (marker >= 0xd0 && marker <= 0xd8 ? 0 : word(at + 2));
  }
  return { kind: 'refused', why: 'cut' };
}
