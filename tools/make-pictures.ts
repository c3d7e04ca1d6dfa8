import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import {
  drawCleave,
  drawSplice,
  randomCleaveScene,
  randomSpliceScene,
  type Rng,
  rngFrom,
} from '@clear-mark/sim';
import sharp from 'sharp';

export type MadeKind = 'cleave' | 'splice';
const MOST = 10_000;

interface Drawn {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  /** What the picture shows, for truth.json. */
  readonly truth: object;
  /** What a command may be told of it, for manifest.json. */
  readonly told?: object;
}

/**
 * Writes simulated pictures as PNG files, with what they show in truth.json, and what may be known beforehand in manifest.json. Exit code 2 for a
 * wrong call.
 */
export async function runMakePictures(kind: MadeKind, args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n./clear-mark make-${kind}s FOLDER [--count 20] [--seed 1]`);
    return 2;
  }
  const { folder, count, seed } = read;
  mkdirSync(folder, { recursive: true });
  const truth: object[] = [];
  const told: object[] = [];
  for (let i = 0; i < count; i++) {
    const drawn = DRAWN[kind](rngFrom(seed * 100_003 + i));
    const file = `${kind}-${String(i + 1).padStart(4, '0')}.png`;
    const raw = { width: drawn.width, height: drawn.height, channels: 1 as const };
    await sharp(Buffer.from(drawn.data), { raw }).png().toFile(path.join(folder, file));
    truth.push({ file, ok: true, ...drawn.truth });
    told.push({ file, ...drawn.told });
  }
  const keep = (name: string, pictures: object[]): void =>
    writeFileSync(path.join(folder, name), `${JSON.stringify({ ...SAID[kind], pictures }, null, 2)}\n`);
  keep('truth.json', truth);
  keep('manifest.json', told);
  console.log(`${count} pictures in ${folder}`);
  return 0;
}

const MODE_FIELD_UM = 9.2;
/** What is said of all pictures together. */
const SAID: Readonly<Record<MadeKind, object>> = {
  cleave: {},
  splice: { mode_field_um_1310: MODE_FIELD_UM },
};
const DRAWN: Readonly<Record<MadeKind, (rng: Rng) => Drawn>> = {
  cleave: (rng) => {
    const { scene, ...picture } = drawCleave(randomCleaveScene(rng), rng);
    const fibers = scene.ends.map((e) => ({ side: e.side, angle_deg: e.angleDeg, class: e.look }));
    return { ...picture, truth: { scale_um_per_px: scene.umPerPx, fibers } };
  },
  splice: (rng) => {
    const { scene, offsetUm, coreOffsetUm, angleDeg, ...picture } = drawSplice(randomSpliceScene(rng), rng);
    const truth = {
      scale_um_per_px: scene.umPerPx,
      class: scene.look,
      offset_um: offsetUm,
      core_offset_um: coreOffsetUm,
      angle_deg: angleDeg,
      diameter_change_um: scene.changeUm,
      bubble_um: scene.bubble?.diameterUm ?? 0,
      curled: scene.curlMm !== null,
    };
    return { ...picture, truth, told: { views: scene.sides.length } };
  },
};

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
