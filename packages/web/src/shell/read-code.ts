import type jsQr from 'jsqr';

let reader: Promise<typeof jsQr> | null = null;

/**
 * The text of a code in a frame of a camera, dark on light or light on dark; null where there is none. The reader is loaded
 * with the first frame. Errors: those of the network, where it cannot be loaded.
 */
export async function codeIn({ data, width, height }: ImageData): Promise<string | null> {
  reader ??= import('jsqr').then((m) => m.default);
  const read = await reader.catch((error: unknown) => {
    reader = null;
    throw error;
  });
  const found = read(data, width, height);
  return found === null || found.data === '' ? null : found.data;
}
