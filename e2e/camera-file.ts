import { mkdtemp, rm } from 'node:fs/promises';
import { writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { RenderedFace } from '@clear-mark/sim';
import type { test } from '@playwright/test';
import { WHOLE } from './browsers.ts';

type Picture = Pick<RenderedFace, 'width' | 'height' | 'data'>;

/** A file that the browser's fake camera plays over and over: raw frames, 4:2:0, of one grey picture. */
export function writeCameraFile(file: string, { width, height, data }: Picture): void {
  const colour = Buffer.alloc((width / 2) * (height / 2) * 2, 128);
  writeFrames(file, { width, height, aSecond: 15, frames: 8 }, [Buffer.from(data), colour]);
}

/** The same of a photograph in colour: red, green, blue and one byte more a pixel (ITU-R BT.601, full range). */
export function writeColourCameraFile(file: string, { width, height, data }: Picture): void {
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
  writeFrames(file, { width, height, aSecond: 5, frames: 3 }, [luma, blue, red]);
}

function writeFrames(
  file: string,
  of: { readonly width: number; readonly height: number; readonly aSecond: number; readonly frames: number },
  planes: readonly Buffer[],
): void {
  const frame = Buffer.concat([Buffer.from('FRAME\n'), ...planes]);
  const head = Buffer.from(`YUV4MPEG2 W${of.width} H${of.height} F${of.aSecond}:1 Ip A1:1 C420jpeg\n`);
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: of.frames }, () => frame)]));
}

type Launch = Parameters<typeof test.use>[0]['launchOptions'];
/**
 * Launch options of a browser whose camera plays a file: `draw` writes it as the browser of a spec is opened, and it is gone when that is closed.
 */
export const playing =
  (draw: (file: string) => void | Promise<void>): Launch =>
  async ({ launchOptions }, use) => {
    const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-camera-'));
    const file = path.join(folder, 'camera.y4m');
    try {
      await draw(file);
      await use({
        ...launchOptions,
        executablePath: WHOLE,
        args: [
          ...(launchOptions.args ?? []),
          '--use-fake-device-for-media-stream',
          `--use-file-for-fake-video-capture=${file}`,
        ],
      });
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  };
