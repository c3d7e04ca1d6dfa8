import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { gradeFile } from './grade-file.ts';
import { runMakeFaces } from './make-faces.ts';

let folder: string;
const said: string[] = [];
beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-make-'));
  said.length = 0;
  vi.spyOn(console, 'log').mockImplementation((text: string) => void said.push(text));
  vi.spyOn(console, 'error').mockImplementation((text: string) => void said.push(text));
});
afterEach(() => {
  vi.restoreAllMocks();
  rmSync(folder, { recursive: true, force: true });
});
const make = (...more: string[]): Promise<number> =>
  runMakeFaces([folder, '--count', '2', '--height', '480', ...more]);

describe('a set of simulated faces', () => {
  it('has a picture and its truth each, and the command that grades finds its scale', async () => {
    expect(await make('--seed', '5', '--state', 'scratched')).toBe(0);
    expect(readdirSync(folder).sort()).toEqual([
      'face-0001.png',
      'face-0001.truth.json',
      'face-0002.png',
      'face-0002.truth.json',
    ]);
    const truth = JSON.parse(readFileSync(path.join(folder, 'face-0001.truth.json'), 'utf8')) as {
      scale_um_per_px: number;
      features: { look: string }[];
    };
    expect(truth.features.every((f) => f.look === 'scratch')).toBe(true);
    const graded = await gradeFile(path.join(folder, 'face-0001.png'), 'sm-pc');
    expect(graded.ok).toBe(true);
    expect(Math.abs(graded.scale_um_per_px! / truth.scale_um_per_px - 1)).toBeLessThan(0.005);
    expect(graded.contact_zone_seen).toBeGreaterThan(0.2);
  });
  it('is the same for the same seed, another for another', async () => {
    const first = (): string => readFileSync(path.join(folder, 'face-0001.png')).toString('base64');
    await make('--seed', '5');
    const one = first();
    await make('--seed', '6');
    expect(first()).not.toBe(one);
    await make('--seed', '5');
    expect(first()).toBe(one);
  });
  it.each([
    [['--state', 'perfect'], 'no state'],
    [['--count', '0'], '--count'],
    [['--height', '12.5'], '--height'],
    [['--seed', 'x'], '--seed'],
    [['--what'], 'what'],
  ])('%j is refused', async (args, words) => {
    expect(await make(...args)).toBe(2);
    expect(said.join()).toContain(words);
    expect(readdirSync(folder)).toEqual([]);
  });
});
