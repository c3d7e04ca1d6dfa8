import type { GreyImage } from '@clear-mark/core';
import sharp from 'sharp';

/** The largest picture that is decoded: a bomb costs no more memory than this. */
const MOST_PIXELS = 40_000_000;

/** One PNG or JPEG in grey, turned as its camera says; in words why it cannot be read. */
export async function greyPicture(file: string): Promise<GreyImage | { readonly refused: string }> {
  try {
    const picture = sharp(file, { failOn: 'error', limitInputPixels: MOST_PIXELS, animated: false });
    const { format, pages } = await picture.metadata();
    if (format !== 'png' && format !== 'jpeg')
      return { refused: `a ${format ?? 'file'} and neither PNG nor JPEG` };
    if ((pages ?? 1) > 1) return { refused: 'an animated picture' };
    const grey = await picture
      .rotate()
      .flatten({ background: '#000000' })
      .toColourspace('b-w')
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    const { width, height, channels } = grey.info;
    const data = new Uint8Array(width * height);
    for (let i = 0; i < data.length; i++) data[i] = grey.data[i * channels]!;
    return { width, height, data };
  } catch (error) {
    const words = (error as Error).message.split('\n')[0]!;
    return {
      refused: /pixel limit/i.test(words) ? 'the picture has too many pixels' : `it cannot be read: ${words}`,
    };
  }
}
