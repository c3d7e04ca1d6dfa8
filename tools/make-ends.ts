import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { type CameraCard, cardOfMethod, type MethodSheet } from '@clear-mark/core';
import { cameraCardShapes } from '@clear-mark/paper';
import { type CardPicture, drawEnd, type EndScene, randomEndScene, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';
import { methodNamed } from './card-command.ts';
import { cardToFile } from './card-file.ts';
import { onAllCores } from './on-all-cores.ts';
import { shapesPicture } from './shapes-picture.ts';

const USAGE =
  './clear-mark make-ends FOLDER [--method round-cord] [--count 20] [--seed 1] [--megapixels 2|12]';
const MOST = 2000;
const PX_PER_MM = 24;
const SIZES: Readonly<Record<string, { width: number; height: number }>> = {
  2: { width: 1632, height: 1224 },
  12: { width: 4032, height: 3024 },
};

/** One photograph to be drawn by a process of its own. */
export interface EndOrder {
  readonly method: string;
  readonly folder: string;
  readonly file: string;
  readonly seed: number;
  readonly size: { readonly width: number; readonly height: number } | null;
}

/** Writes simulated photographs of prepared ends on their card, with the card and what they show. Exit code 2 for a wrong call. */
export async function runMakeEnds(args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n${USAGE}`);
    return 2;
  }
  const { folder, sheet, count, seed, size } = read;
  mkdirSync(folder, { recursive: true });
  const orders = Array.from({ length: count }, (_, i): EndOrder => {
    const file = `end-${String(i + 1).padStart(4, '0')}.jpg`;
    return { method: sheet.id, folder, file, seed: seed * 100_003 + i, size };
  });
  const truth = await onAllCores<{ file: string }>('./make-end-worker.ts', orders);
  truth.sort((a, b) => (a.file < b.file ? -1 : 1));
  const keep = (name: string, what: object): void =>
    writeFileSync(path.join(folder, name), `${JSON.stringify(what, null, 2)}\n`);
  keep('card.json', cardToFile(cardOfMethod(sheet), sheet.id, sheet.version));
  keep('truth.json', { pictures: truth });
  console.log(`${count} pictures in ${folder}`);
  return 0;
}

/** The picture of a card as the simulated camera looks at it. */
export async function cardPicture(card: CameraCard, sheet: MethodSheet): Promise<CardPicture> {
  const png = await shapesPicture(cameraCardShapes(card, sheet), card.widthMm, card.heightMm, PX_PER_MM);
  const { data, info } = await sharp(png).greyscale().raw().toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    data: new Uint8Array(data),
    widthMm: card.widthMm,
    heightMm: card.heightMm,
    axis: { fromX: card.axis.from.xMm, toX: card.axis.to.xMm, y: card.axis.from.yMm },
    marks: card.marks.map((m) => [m.xMm, m.yMm] as const),
  };
}

/** Draws one photograph, and says what it shows in the words of the practice pictures. */
export async function makeEnd({ method, folder, file, seed, size }: EndOrder): Promise<object> {
  const sheet = methodNamed(method)!;
  const rng = rngFrom(seed);
  const scene = randomEndScene(rng, size ?? {});
  // Another card: that of the version before.
  const shown = scene.fault === 'other_card' ? { ...sheet, version: sheet.version + 7 } : sheet;
  const photo = drawEnd(await cardPicture(cardOfMethod(shown), shown), scene, rng);
  await sharp(Buffer.from(photo.data), { raw: { width: photo.width, height: photo.height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: 92 })
    .toFile(path.join(folder, file));
  return { file, ...truthOf(scene) };
}

const truthOf = (scene: EndScene): object => ({
  ok: scene.fault === 'none',
  reason: scene.fault === 'none' ? null : scene.fault,
  megapixels: (scene.width * scene.height) / 1e6,
  end: {
    jacket_mm: scene.end.jacketMm,
    buffer_mm: scene.end.bufferMm,
    glass_mm: scene.end.glassMm,
    jacket_width_mm: scene.end.jacketDiameterMm,
    glass_visible: true,
  },
  scene: { tilt_deg: scene.tiltDeg, roll_deg: scene.rollDeg, print: scene.print, k1: scene.k1 },
});

interface EndsCall {
  readonly folder: string;
  readonly sheet: MethodSheet;
  readonly count: number;
  readonly seed: number;
  readonly size: EndOrder['size'];
}
function readCall(args: readonly string[]): EndsCall | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        method: { type: 'string', default: 'round-cord' },
        count: { type: 'string', default: '20' },
        seed: { type: 'string', default: '1' },
        megapixels: { type: 'string' },
      },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [folder, ...more] = parsed.positionals;
  const { values } = parsed;
  const sheet = methodNamed(values.method);
  const count = Number(values.count);
  const seed = Number(values.seed);
  if (folder === undefined || more.length > 0) return 'Give one folder.';
  if (!sheet) return `There is no method ${values.method}.`;
  if (!Number.isInteger(count) || count < 1 || count > MOST)
    return `--count is a whole number from 1 to ${MOST}.`;
  if (!Number.isInteger(seed)) return '--seed is a whole number.';
  const size = values.megapixels === undefined ? null : SIZES[values.megapixels];
  if (size === undefined) return '--megapixels is 2 or 12.';
  return { folder, sheet, count, seed, size };
}
