import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ColourImage, GreyImage } from '@clear-mark/core';
import { run } from '../database-user.ts';
import type { Measured } from './measured.ts';

const ROUNDS = 3;

/**
 * How far a process grows while it measures a picture, by what the operating system counts, so that heap, buffers
 * and what was thrown away are all in it. The code was warmed up on a small picture before. `bytesAPixel` may be taken beyond the
 * picture itself.
 */
export async function memoryBench(
  kind: 'cleave' | 'end' | 'face',
  name: string,
  bytesAPixel: number,
  small: GreyImage | ColourImage,
  large: GreyImage | ColourImage,
): Promise<Measured> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-bench-'));
  try {
    const args: string[] = [];
    for (const [i, picture] of [small, large].entries()) {
      const file = path.join(folder, `${i}.levels`);
      await writeFile(file, picture.data);
      args.push(file, String(picture.width), String(picture.height));
    }
    const child = fileURLToPath(new URL('memory-child.ts', import.meta.url));
    let most = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const { stdout } = await run(process.execPath, [...process.execArgv, child, kind, ...args]);
      most = Math.max(most, Number(stdout.trim()));
    }
    const each = most / (large.width * large.height);
    return {
      name,
      ratio: each / bytesAPixel,
      most: 1,
      unit: 'times',
      detail: `${each.toFixed(1)} bytes a pixel, ${(most / 1e6).toFixed(0)} MB for ${large.width}x${large.height}`,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
