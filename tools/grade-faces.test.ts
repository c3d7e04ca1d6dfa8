import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import {
  randomDefect,
  randomScene,
  randomScratch,
  renderFace,
  rngFrom,
  type TrueFeature,
} from '@clear-mark/sim';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runGradeFaces } from './grade-faces.ts';
import type { GradedFile } from './grade-file.ts';

let folder: string;
const SCENE = { width: 640, height: 480, umPerPx: 0.36, centre: [331.4, 236.2] as const };

/** A face with the named features, as a picture of a format. */
async function write(
  name: string,
  seed: number,
  features: (rng: () => number) => TrueFeature[],
): Promise<void> {
  const rng = rngFrom(seed);
  const scene = randomScene(rng, { ...SCENE, core: { radiusUm: 4.5, level: 160 } });
  const face = renderFace(scene, features(rng), rng);
  const raw = { width: face.width, height: face.height, channels: 1 as const };
  const picture = sharp(Buffer.from(face.data), { raw });
  await picture
    .toFormat(name.endsWith('.jpg') ? 'jpeg' : 'png', { quality: 96 })
    .toFile(path.join(folder, name));
}

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-faces-'));
  await write('clean.png', 3, () => []);
  await write('pit.png', 4, (rng) => [randomDefect(rng, 7, -70, [-30, 14])]);
  await write('scratched.jpg', 5, (rng) => [randomScratch(rng, 1.8, -60, 5)]);
  writeFileSync(path.join(folder, 'text.png'), 'not a picture at all');
  writeFileSync(
    path.join(folder, 'drawing.png'),
    '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>',
  );
  const whole = readFileSync(path.join(folder, 'clean.png'));
  writeFileSync(path.join(folder, 'cut.png'), whole.subarray(0, whole.length / 2));
  const flat = (width: number, height: number, level: number) =>
    sharp({ create: { width, height, channels: 3, background: { r: level, g: level, b: level } } }).png();
  await flat(1, 1, 200).toFile(path.join(folder, 'one.png'));
  await flat(400, 300, 128).toFile(path.join(folder, 'wall.png'));
  await flat(400, 300, 3).toFile(path.join(folder, 'night.png'));
  await flat(7000, 7000, 90).toFile(path.join(folder, 'huge.png'));
  const out = path.join(folder, 'out');
  expect(await runGradeFaces([folder, '--criteria', 'sm-pc', '--out', out])).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const resultOf = (name: string): GradedFile =>
  JSON.parse(readFileSync(path.join(folder, 'out', `${name}.json`), 'utf8')) as GradedFile;

describe('pictures of a folder', () => {
  it('scale and centre from the cladding', () => {
    const found = resultOf('clean.png');
    expect(found).toMatchObject({
      ok: true,
      verdict: 'pass',
      features: [],
      pass_probability: 1,
      near_limit: false,
    });
    expect(Math.abs(found.scale_um_per_px! / SCENE.umPerPx - 1)).toBeLessThan(0.005);
    const [x, y] = found.centre_px!;
    expect(Math.hypot(x - SCENE.centre[0], y - SCENE.centre[1]) * SCENE.umPerPx).toBeLessThan(0.5);
  });
  it('a pit with its place and size fails the cladding', () => {
    const found = resultOf('pit.png');
    expect(found.verdict).toBe('fail');
    const [pit] = found.features!;
    expect(pit).toMatchObject({ kind: 'defect' });
    expect(Math.hypot(pit!.x_um + 30, pit!.y_um - 14)).toBeLessThan(1);
    expect(Math.abs(pit!.size_um / 7 - 1)).toBeLessThan(0.12);
    expect(pit!.uncertainty_um).toBeGreaterThan(0.1);
    expect(found).toMatchObject({ pass_probability: 0, near_limit: false });
  });
  it('a scratch through the core zone fails, from a JPEG too', () => {
    const found = resultOf('scratched.jpg');
    expect(found.verdict).toBe('fail');
    expect(found.features!.some((f) => f.kind === 'scratch')).toBe(true);
  });
  it.each(['text.png', 'drawing.png', 'cut.png', 'one.png', 'wall.png', 'night.png', 'huge.png'])(
    '%s is refused with a reason, and never graded',
    (name) => {
      const found = resultOf(name);
      expect(found.ok).toBe(false);
      expect(found.reason!.length).toBeGreaterThan(8);
      expect(found).not.toHaveProperty('verdict');
    },
  );
  it('a summary names every picture', () => {
    const lines = readFileSync(path.join(folder, 'out', 'summary.csv'), 'utf8')
      .trim()
      .split('\r\n');
    expect(lines).toHaveLength(1 + readdirSync(folder).filter((f) => /\.(png|jpg)$/.test(f)).length);
    expect(lines[0]).toBe('file,ok,reason,verdict,pass_probability,scale_um_per_px,scratches,defects');
  });
  it.each([
    [[]],
    [['/nowhere', '--criteria', 'sm-pc', '--out', '/tmp/x']],
    [['.', '--criteria', 'none', '--out', '/tmp/x']],
    [['.', '--criteria', 'mm']],
    [['.', '--what']],
  ])('%j is a wrong call', async (args) => {
    expect(await runGradeFaces(args)).toBe(2);
  });
});
