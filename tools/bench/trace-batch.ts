import { fork } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { readTraceFolder, type TraceFolder } from '../read-trace-folder.ts';
import { largeTraceFile } from './large-trace.ts';
import type { Measured } from './measured.ts';

const FILES = 144;
const CORES = 2;
const ROUNDS = 3;

/** Reading the 144 fibers of a cable against two independent processes, each with half of them. */
export async function benchTraceBatch(): Promise<Measured> {
  const at = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-traces-'));
  try {
    const folder = path.join(at, 'traces');
    const out = path.join(at, 'out');
    mkdirSync(folder);
    mkdirSync(out);
    const files = Array.from({ length: FILES }, (_, i) => `fiber-${String(i + 1).padStart(3, '0')}.sor`);
    for (const [i, name] of files.entries()) writeFileSync(path.join(folder, name), largeTraceFile(i % 6));
    const apart: number[] = [];
    const together: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const shares = [0, 1].map((c) => ({ folder, out, files: files.filter((_, i) => i % CORES === c) }));
      apart.push(await seconds(() => Promise.all(shares.map(alone))));
      together.push(await seconds(() => readTraceFolder({ folder, files, out })));
    }
    const one = Math.min(...together);
    const two = Math.min(...apart);
    return {
      name: `${FILES} trace files of 128k points read / two independent processes`,
      ratio: one / two,
      most: 1 / 0.9,
      unit: 'times',
      detail: `${one.toFixed(2)} s against ${two.toFixed(2)} s, best of ${ROUNDS}`,
    };
  } finally {
    rmSync(at, { recursive: true, force: true });
  }
}

async function seconds(act: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await act();
  return (performance.now() - began) / 1000;
}

function alone(share: TraceFolder): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = fork(fileURLToPath(new URL('../trace-worker.ts', import.meta.url)), [], {
      execArgv: ['--import', 'tsx'],
    });
    worker.on('error', reject);
    worker.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`reading stopped: ${code}`))));
    worker.send(share);
  });
}
