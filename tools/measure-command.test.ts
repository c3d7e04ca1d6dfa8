import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runMakePictures } from './make-pictures.ts';
import { runMeasure } from './measure-command.ts';
import type { MeasuredFile } from './measure-file.ts';

let folder: string;
const out = (): string => path.join(folder, 'results.json');
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-cleaves-'));
  expect(await runMakePictures('cleave', [folder, '--count', '3', '--seed', '8'])).toBe(0);
  writeFileSync(path.join(folder, 'not.png'), 'not a picture at all');
  writeFileSync(path.join(folder, 'phone.jpg'), Buffer.from('000000186674797068656963', 'hex'));
  const grey = { r: 180, g: 180, b: 180 };
  await sharp({ create: { width: 400, height: 300, channels: 3, background: grey } })
    .png()
    .toFile(path.join(folder, 'wall.png'));
  // The same picture lying on its side, with the turn in its head, as a phone keeps it.
  await sharp(path.join(folder, 'cleave-0001.png'))
    .rotate(90)
    .withMetadata({ orientation: 8 })
    .jpeg({ quality: 96 })
    .toFile(path.join(folder, 'turned.jpg'));
  expect(await runMeasure('cleave', [folder, '--out', out()])).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const measured = (): MeasuredFile[] => JSON.parse(readFileSync(out(), 'utf8')).pictures;
const of = (name: string): MeasuredFile => measured().find((m) => m.file === name)!;

describe('measure-cleave', () => {
  it('gives one JSON of all pictures in the order of their names, with values near the truth', () => {
    const { pictures } = JSON.parse(readFileSync(path.join(folder, 'truth.json'), 'utf8'));
    expect(measured().map((m) => m.file)).toEqual([...measured().map((m) => m.file)].sort());
    for (const truth of pictures) {
      const found = of(truth.file);
      expect(found.ok).toBe(true);
      expect(found.scale_um_per_px! / truth.scale_um_per_px).toBeCloseTo(1, 1);
      for (const fiber of truth.fibers) {
        const got = found.fibers!.find((f) => f.side === fiber.side)!;
        if (got.angle_deg !== null)
          expect(Math.abs(got.angle_deg - fiber.angle_deg)).toBeLessThan(3 * got.u_deg! + 0.01);
      }
    }
  });
  it('says why where it cannot', () => {
    expect(of('wall.png')).toMatchObject({ ok: false, reason: 'no_fiber' });
    expect(of('not.png').reason).toMatch(/cannot be read|neither PNG nor JPEG/);
    expect(of('phone.jpg').reason).toMatch(/cannot be read|neither PNG nor JPEG/);
  });
  it('turns a picture as its camera says', () => {
    const upright = of('cleave-0001.png').fibers![0]!;
    const turned = of('turned.jpg').fibers![0]!;
    expect(turned.side).toBe(upright.side);
    expect(Math.abs(turned.angle_deg! - upright.angle_deg!)).toBeLessThan(0.1);
  });
  it('believes less of what its manifest says was taken from a screen', async () => {
    const straight = of('cleave-0001.png').fibers![0]!.u_deg!;
    const manifest = path.join(folder, 'manifest.json');
    const elsewhere = path.join(folder, 'of-screen.json');
    writeFileSync(
      manifest,
      JSON.stringify({ pictures: [{ file: 'images/cleave-0001.png', of_screen: true }] }),
    );
    try {
      expect(await runMeasure('cleave', [folder, '--out', elsewhere])).toBe(0);
    } finally {
      rmSync(manifest);
    }
    const { pictures } = JSON.parse(readFileSync(elsewhere, 'utf8')) as { pictures: MeasuredFile[] };
    const uOf = (name: string): number => pictures.find((p) => p.file === name)!.fibers![0]!.u_deg!;
    expect(uOf('cleave-0001.png')).toBeCloseTo(Math.hypot(straight, 0.1), 3);
    expect(uOf('cleave-0002.png')).toBe(of('cleave-0002.png').fibers![0]!.u_deg!);
  });
  it('has a CSV beside it, a line a fiber or a refusal', () => {
    const lines = readFileSync(path.join(folder, 'results.csv'), 'utf8').trim().split('\r\n');
    expect(lines[0]).toBe('file,ok,reason,scale_um_per_px,side,angle_deg,u_deg,class,dirty');
    const fibers = measured().reduce((sum, m) => sum + Math.max(1, m.fibers?.length ?? 0), 0);
    expect(lines).toHaveLength(1 + fibers);
  });
  it('a wrong call is told', async () => {
    expect(await runMeasure('cleave', [])).toBe(2);
    expect(await runMeasure('cleave', [folder])).toBe(2);
    expect(await runMeasure('cleave', ['/nowhere', '--out', out()])).toBe(2);
    expect(await runMakePictures('cleave', [folder, '--count', 'x'])).toBe(2);
  });
});
