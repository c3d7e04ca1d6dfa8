import { writeFileSync } from 'node:fs';
import {
  randomDefect,
  randomScene,
  type RenderedFace,
  renderFace,
  rngFrom,
  type TrueFeature,
} from '@clear-mark/sim';
import type { test } from '@playwright/test';
import sharp from 'sharp';

const SCENE = { width: 640, height: 480, umPerPx: 0.36, centre: [331.4, 236.2] as const };

/** An end face with the given features, the same for the same seed. */
export function faceWith(features: readonly TrueFeature[], seed = 4): RenderedFace {
  const rng = rngFrom(seed);
  const core = { radiusUm: 4.5, level: 165 };
  return renderFace(
    randomScene(rng, { ...SCENE, core, claddingLevel: 135, ferruleLevel: 95 }),
    features,
    rng,
  );
}
export const speck = (sizeUm: number, x: number, y: number): TrueFeature =>
  randomDefect(rngFrom(9), sizeUm, -70, [x, y]);

export const pngOf = ({ width, height, data }: RenderedFace): Promise<Buffer> =>
  sharp(Buffer.from(data), { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();

/** A file that the browser's fake camera plays over and over: raw frames, 4:2:0, of one grey picture. */
export function writeCameraFile(
  file: string,
  { width, height, data }: Pick<RenderedFace, 'width' | 'height' | 'data'>,
  frames = 8,
): void {
  const colour = Buffer.alloc((width / 2) * (height / 2) * 2, 128);
  const frame = Buffer.concat([Buffer.from('FRAME\n'), Buffer.from(data), colour]);
  const head = Buffer.from(`YUV4MPEG2 W${width} H${height} F15:1 Ip A1:1 C420jpeg\n`);
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: frames }, () => frame)]));
}

/** The same of a photograph in colour: red, green, blue and one byte more a pixel (ITU-R BT.601, full range). */
export function writeColourCameraFile(
  file: string,
  { width, height, data }: Pick<RenderedFace, 'width' | 'height' | 'data'>,
  frames = 3,
): void {
  const luma = Buffer.alloc(width * height);
  for (let i = 0; i < luma.length; i++)
    luma[i] = Math.round(0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!);
  const blue = Buffer.alloc((width / 2) * (height / 2));
  const red = Buffer.alloc(blue.length);
  for (let y = 0; y < height / 2; y++) {
    for (let x = 0; x < width / 2; x++) {
      const i = 2 * y * width + 2 * x;
      const level = (of: number, factor: number): number =>
        Math.max(0, Math.min(255, Math.round(128 + factor * (of - luma[i]!))));
      blue[y * (width / 2) + x] = level(data[4 * i + 2]!, 0.564);
      red[y * (width / 2) + x] = level(data[4 * i]!, 0.713);
    }
  }
  const frame = Buffer.concat([Buffer.from('FRAME\n'), luma, blue, red]);
  const head = Buffer.from(`YUV4MPEG2 W${width} H${height} F5:1 Ip A1:1 C420jpeg\n`);
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: frames }, () => frame)]));
}

type Launch = Parameters<typeof test.use>[0]['launchOptions'];
/** Launch options of a browser whose camera plays a file. */
export const playing =
  (file: string): Launch =>
  async ({ launchOptions }, use) => {
    await use({
      ...launchOptions,
      args: [
        ...(launchOptions.args ?? []),
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-video-capture=${file}`,
      ],
    });
  };
