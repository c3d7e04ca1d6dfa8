import { fork } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeFaces } from '../make-faces.ts';
import { gradeAll } from '../grade-faces.ts';
import type { Measured } from './measured.ts';

const FACES = 200;

/** Grading a folder of 200 pictures against as many independent processes as cores, each with its share of them. */
export async function benchFacesBatch(): Promise<Measured> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-faces-'));
  try {
    const from = path.join(folder, 'pictures');
    mkdirSync(from);
    const files = (
      await makeFaces({ folder: from, count: FACES, seed: 5, state: 'mixed', height: 480 })
    ).sort();
    const cores = os.cpus().length;
    const apart = await seconds(() =>
      Promise.all(
        Array.from({ length: cores }, (_, c) =>
          alone(files.filter((_f, i) => i % cores === c).map((f) => path.join(from, f))),
        ),
      ),
    );
    const out = path.join(folder, 'out');
    mkdirSync(out);
    const together = await seconds(() => gradeAll(from, files, 'sm-pc', out));
    return {
      name: `A folder of ${FACES} pictures graded / ${cores} independent processes`,
      ratio: together / apart,
      most: 1 / 0.9,
      unit: 'times',
      detail: `${together.toFixed(1)} s against ${apart.toFixed(1)} s: ${(FACES / together).toFixed(1)} and ${(FACES / apart).toFixed(1)} pictures a second`,
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function seconds(act: () => Promise<unknown>): Promise<number> {
  const from = process.hrtime.bigint();
  await act();
  return Number(process.hrtime.bigint() - from) / 1e9;
}

/** One process that is given its files at once and grades them without a word to anybody. */
function alone(files: readonly string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = fork(
      fileURLToPath(new URL('./faces-alone.ts', import.meta.url)),
      [JSON.stringify(files)],
      {
        execArgv: ['--import', 'tsx'],
      },
    );
    worker.on('error', reject);
    worker.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`grading stopped: ${code}`))));
  });
}
