import { fork } from 'node:child_process';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { MOST_TRACE_BYTES } from '@clear-mark/core';
import { readTraceFile } from './read-trace-file.ts';

export interface TraceFolder {
  readonly folder: string;
  readonly files: readonly string[];
  readonly out: string;
}

/** So much is read in this process: another one takes a second to start. */
const ALONE_BYTES = 12_000_000;

/** Reads files of a folder, a JSON file each, on all cores where there is much to read. Gives how many were refused. */
export async function readTraceFolder({ folder, files, out }: TraceFolder): Promise<number> {
  const bytes = files.reduce((sum, name) => sum + statSync(path.join(folder, name)).size, 0);
  const cores = bytes > ALONE_BYTES ? Math.min(os.availableParallelism(), files.length) : 1;
  const shares = Array.from({ length: cores }, (_, c) => files.filter((_name, i) => i % cores === c));
  const others = shares.slice(1).map((share) => elsewhere({ folder, files: share, out }));
  const own = readTraces({ folder, files: shares[0] ?? [], out });
  return (await Promise.all(others)).reduce((sum, n) => sum + n, own);
}

/** The same in this process. */
export function readTraces({ folder, files, out }: TraceFolder): number {
  let refused = 0;
  for (const name of files) {
    const said = readTraceFile(name, bytesOf(path.join(folder, name)));
    if (!said.ok) refused += 1;
    writeFileSync(path.join(out, `${name}.json`), `${JSON.stringify(said, null, 2)}\n`);
  }
  return refused;
}

function elsewhere(share: TraceFolder): Promise<number> {
  return new Promise((resolve, reject) => {
    const worker = fork(fileURLToPath(new URL('./trace-worker.ts', import.meta.url)), [], {
      execArgv: ['--import', 'tsx'],
    });
    let refused: number | null = null;
    worker.on('error', reject);
    worker.on('message', (n: number) => (refused = n));
    worker.on('exit', (code) =>
      refused === null ? reject(new Error(`reading stopped: ${code}`)) : resolve(refused),
    );
    worker.send(share);
  });
}

/** Of a file that is too large no more is read than shows it. */
function bytesOf(file: string): Uint8Array {
  const { size } = statSync(file);
  return size > MOST_TRACE_BYTES ? new Uint8Array(MOST_TRACE_BYTES + 1) : new Uint8Array(readFileSync(file));
}
