import type { ColourImage, GreyImage } from '@clear-mark/core';
import sharp, { type Sharp } from 'sharp';

/** The largest picture that is decoded: a bomb costs no more memory than this. */
const MOST_PIXELS = 40_000_000;

type Refused = { readonly refused: string };

/** One PNG or JPEG in grey, turned as its camera says; in words why it cannot be read. */
export async function greyPicture(file: string): Promise<GreyImage | Refused> {
  const read = await bytesOf(file, (picture) => picture.toColourspace('b-w'));
  if ('refused' in read) return read;
  const { width, height, channels, bytes } = read;
  const data = new Uint8Array(width * height);
  for (let i = 0; i < data.length; i++) data[i] = bytes[i * channels]!;
  return { width, height, data };
}

/** One PNG or JPEG in colour, likewise: four bytes a pixel. */
export async function colourPicture(file: string): Promise<ColourImage | Refused> {
  const read = await bytesOf(file, (picture) => picture.toColourspace('srgb').ensureAlpha());
  if ('refused' in read) return read;
  return { width: read.width, height: read.height, data: read.bytes };
}

interface ReadBytes {
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly bytes: Buffer;
}
async function bytesOf(file: string, into: (picture: Sharp) => Sharp): Promise<ReadBytes | Refused> {
  try {
    const picture = sharp(file, { failOn: 'error', limitInputPixels: MOST_PIXELS, animated: false });
    const { format, pages } = await picture.metadata();
    if (format !== 'png' && format !== 'jpeg')
      return { refused: `a ${format ?? 'file'} and neither PNG nor JPEG` };
    if ((pages ?? 1) > 1) return { refused: 'an animated picture' };
    const upright = picture.rotate().flatten({ background: '#000000' });
    const { data, info } = await into(upright).raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, channels: info.channels, bytes: data };
  } catch (error) {
    const words = (error as Error).message.split('\n')[0]!;
    return {
      refused: /pixel limit/i.test(words) ? 'the picture has too many pixels' : `it cannot be read: ${words}`,
    };
  }
}
