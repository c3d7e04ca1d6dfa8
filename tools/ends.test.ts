import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { type CameraCard, cardOfMethod, type EndReading, measureEnd } from '@clear-mark/core';
import { drawEnd, END_FAULTS, type EndFault, randomEndScene, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { methodNamed, runCard } from './card-command.ts';
import { cardPicture, runMakeEnds } from './make-ends.ts';
import { runMeasure } from './measure-command.ts';
import type { MeasuredFile } from './measure-file.ts';

let folder: string;
let card: CameraCard;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-ends-'));
  card = cardOfMethod(methodNamed('round-cord')!);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => path.join(folder, name);
const json = (name: string) => JSON.parse(readFileSync(at(name), 'utf8'));

describe('card', () => {
  it('writes the picture at its size, and where its marks are', async () => {
    const call = ['round-cord', '--png', at('card.png'), '--json', at('card.json'), '--px-per-mm', '10'];
    expect(await runCard(call)).toBe(0);
    const file = json('card.json');
    const { data, info } = await sharp(at('card.png'))
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([10 * file.width_mm, 10 * file.height_mm]);
    // The middle of each mark is dark, the gap round its ring is light, and its axis is bare paper.
    const level = (x: number, y: number): number =>
      data[Math.round(y * 10) * info.width + Math.round(x * 10)]!;
    for (const { x_mm: x, y_mm: y } of file.marks) {
      expect(level(x, y)).toBeLessThan(40);
      expect(level(x + 3.3, y)).toBeGreaterThan(215);
    }
    const { axis } = file;
    for (let x = axis.x0_mm; x < axis.x1_mm; x += 1) expect(level(x, axis.y0_mm)).toBe(255);
  });
  it('a wrong call is told', async () => {
    expect(await runCard([])).toBe(2);
    expect(await runCard(['nothing-of-ours', '--png', at('a'), '--json', at('b')])).toBe(2);
    expect(await runCard(['round-cord', '--png', at('a')])).toBe(2);
    expect(await runCard(['round-cord', '--png', at('a'), '--json', at('b'), '--px-per-mm', '1'])).toBe(2);
  });
});

describe('measure-end', () => {
  it('measures what make-ends drew: lengths within half a millimetre and within their uncertainty', async () => {
    expect(await runMakeEnds([folder, '--count', '6', '--seed', '21', '--megapixels', '2'])).toBe(0);
    await sharp({ create: { width: 400, height: 300, channels: 3, background: '#777' } })
      .png()
      .toFile(at('desk.png'));
    const call = [folder, '--card', at('card.json'), '--out', at('out.json')];
    expect(await runMeasure('end', call)).toBe(0);
    const found = new Map((json('out.json').pictures as MeasuredFile[]).map((m) => [m.file, m]));
    for (const truth of json('truth.json').pictures) {
      const own = found.get(truth.file)!;
      expect(own.ok, `${truth.file} ${own.reason}`).toBe(truth.ok);
      if (!truth.ok) continue;
      for (const layer of ['jacket_mm', 'buffer_mm', 'glass_mm'] as const) {
        const off = Math.abs(own[layer]! - truth.end[layer]);
        expect(off, `${truth.file} ${layer}`).toBeLessThan(Math.min(0.5, 3 * own[`u_${layer}`]!));
      }
    }
    expect(found.get('desk.png')).toMatchObject({ ok: false, reason: 'few_marks' });
    expect(readFileSync(at('out.csv'), 'utf8').split('\r\n')[0]).toMatch(
      /^file,ok,reason,jacket_mm,u_jacket_mm/,
    );
  });
  it('a wrong call is told', async () => {
    expect(await runMeasure('end', [folder, '--out', at('x.json')])).toBe(2);
    writeFileSync(at('no-card.json'), '{}');
    expect(await runMeasure('end', [folder, '--card', at('no-card.json'), '--out', at('x.json')])).toBe(2);
    expect(await runMakeEnds([folder, '--method', 'none'])).toBe(2);
  });
});

describe('a photograph that shows no end to be measured', () => {
  const SIZE = { width: 1000, height: 750, fills: 0.85, rollDeg: 4, tiltDeg: 12, covered: -1 };
  async function readingOf(fault: EndFault, asked = card): Promise<EndReading> {
    const rng = rngFrom(77);
    const sheet = methodNamed('round-cord')!;
    return measureEnd(
      drawEnd(await cardPicture(card, sheet), randomEndScene(rng, { ...SIZE, fault }), rng),
      asked,
    );
  }
  it.each(END_FAULTS.filter((fault) => fault !== 'none' && fault !== 'other_card'))(
    'is refused: %s',
    async (fault) => expect(await readingOf(fault)).toEqual({ ok: false, reason: fault }),
  );
  it('is refused where the card is that of another version', async () => {
    const other = cardOfMethod({ ...methodNamed('round-cord')!, version: 99 });
    expect(await readingOf('none', other)).toEqual({ ok: false, reason: 'other_card' });
  });
  it('and one that shows one is measured', async () => expect((await readingOf('none')).ok).toBe(true));
});
