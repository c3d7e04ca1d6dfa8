import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { FACE_STATES, type FaceState, randomFace, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';

const USAGE = `./clear-mark make-faces FOLDER [--count 20] [--seed 1] [--state ${FACE_STATES.join('|')}] [--height 960]`;
const MOST = 10_000;

export interface FacesToMake {
  readonly folder: string;
  readonly count: number;
  readonly seed: number;
  readonly state: FaceState;
  readonly height: number;
}

/** Writes a set of simulated end faces with what is on them: a PNG and a JSON file each. Exit code 2 for a wrong call. */
export async function runMakeFaces(args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n${USAGE}`);
    return 2;
  }
  mkdirSync(read.folder, { recursive: true });
  const files = await makeFaces(read);
  console.log(`${files.length} faces in ${read.folder}`);
  return 0;
}

/** The same seed gives the same set. Returns the names of the pictures. */
export async function makeFaces({ folder, count, seed, state, height }: FacesToMake): Promise<string[]> {
  const width = Math.round((height * 4) / 3);
  const files: string[] = [];
  for (let i = 0; i < count; i++) {
    const rng = rngFrom(seed * 100_003 + i);
    const umPerPx = (150 + 90 * rng()) / height;
    const face = randomFace(rng, { width, height, umPerPx }, state);
    const name = `face-${String(i + 1).padStart(4, '0')}`;
    const raw = { width, height, channels: 1 as const };
    await sharp(Buffer.from(face.data), { raw })
      .png()
      .toFile(path.join(folder, `${name}.png`));
    const truth = {
      file: `${name}.png`,
      scale_um_per_px: umPerPx,
      centre_px: face.scene.centre,
      features: face.features.map((f) => ({
        kind: f.kind,
        look: f.look,
        size_um: f.sizeUm,
        x_um: f.xUm,
        y_um: f.yUm,
        contrast: f.contrast,
      })),
    };
    writeFileSync(path.join(folder, `${name}.truth.json`), `${JSON.stringify(truth, null, 2)}\n`);
    files.push(`${name}.png`);
  }
  return files;
}

function readCall(args: readonly string[]): FacesToMake | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        count: { type: 'string', default: '20' },
        seed: { type: 'string', default: '1' },
        state: { type: 'string', default: 'mixed' },
        height: { type: 'string', default: '960' },
      },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [folder, ...more] = parsed.positionals;
  if (folder === undefined || more.length > 0) return 'Give one folder to write to.';
  const { state } = parsed.values;
  const known = FACE_STATES.find((s) => s === state);
  if (!known) return `There is no state ${state}.`;
  const whole = (text: string, least: number, most: number): number | null => {
    const n = Number(text);
    return Number.isInteger(n) && n >= least && n <= most ? n : null;
  };
  const count = whole(parsed.values.count, 1, MOST);
  const seed = whole(parsed.values.seed, 0, 1e9);
  const height = whole(parsed.values.height, 240, 4000);
  if (count === null) return `--count is a whole number from 1 to ${MOST}.`;
  if (seed === null) return '--seed is a whole number.';
  if (height === null) return '--height is a whole number from 240 to 4000.';
  return { folder, count, seed, height, state: known };
}
