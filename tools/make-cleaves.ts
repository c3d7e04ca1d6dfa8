import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { drawCleave, randomCleaveScene, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';

const USAGE = './clear-mark make-cleaves FOLDER [--count 20] [--seed 1]';
const MOST = 10_000;

/** Writes simulated side views of cleaved ends as PNG files, with what they show in truth.json. Exit code 2 for a wrong call. */
export async function runMakeCleaves(args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n${USAGE}`);
    return 2;
  }
  const { folder, count, seed } = read;
  mkdirSync(folder, { recursive: true });
  const pictures: object[] = [];
  for (let i = 0; i < count; i++) {
    const rng = rngFrom(seed * 100_003 + i);
    const view = drawCleave(randomCleaveScene(rng), rng);
    const file = `cleave-${String(i + 1).padStart(4, '0')}.png`;
    const raw = { width: view.width, height: view.height, channels: 1 as const };
    await sharp(Buffer.from(view.data), { raw }).png().toFile(path.join(folder, file));
    pictures.push({
      file,
      scale_um_per_px: view.scene.umPerPx,
      fibers: view.scene.ends.map((e) => ({ side: e.side, angle_deg: e.angleDeg, class: e.look })),
    });
  }
  writeFileSync(path.join(folder, 'truth.json'), `${JSON.stringify({ pictures }, null, 2)}\n`);
  console.log(`${count} pictures in ${folder}`);
  return 0;
}

function readCall(args: readonly string[]): { folder: string; count: number; seed: number } | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { count: { type: 'string', default: '20' }, seed: { type: 'string', default: '1' } },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [folder, ...more] = parsed.positionals;
  const count = Number(parsed.values.count);
  const seed = Number(parsed.values.seed);
  if (folder === undefined || more.length > 0) return 'Give one folder.';
  if (!Number.isInteger(count) || count < 1 || count > MOST)
    return `--count is a whole number from 1 to ${MOST}.`;
  if (!Number.isInteger(seed)) return '--seed is a whole number.';
  return { folder, count, seed };
}
