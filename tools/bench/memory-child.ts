import { readFileSync } from 'node:fs';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { cardOfMethod, measureCleave, measureEnd } from '@clear-mark/core';
import { methodNamed } from '../card-command.ts';

/*
 * A process of its own measures one picture in a worker and says by how many bytes the process has grown at most
 * meanwhile. Arguments: `cleave` or `end`, then name, width and height of a file of plain levels to warm up with, then of the one that counts.
 */

interface Plain {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array<SharedArrayBuffer>;
}
type Kind = 'cleave' | 'end';

if (isMainThread) await watch();
else work();

async function watch(): Promise<void> {
  const [kind, ...files] = process.argv.slice(2);
  const pictures = [plain(files.slice(0, 3)), plain(files.slice(3, 6))];
  const worker = new Worker(new URL(import.meta.url), { workerData: kind });
  const told = (): Promise<unknown> => new Promise((resolve) => worker.once('message', resolve));
  await told();
  worker.postMessage(pictures[0]);
  await told();
  const before = process.memoryUsage.rss();
  let most = before;
  const look = (): void => void (most = Math.max(most, process.memoryUsage.rss()));
  const looking = setInterval(look, 1);
  worker.postMessage(pictures[1]);
  await told();
  look();
  clearInterval(looking);
  console.log(most - before);
  await worker.terminate();
}

function plain([file, width, height]: readonly string[]): Plain {
  const bytes = readFileSync(file!);
  const data = new Uint8Array(new SharedArrayBuffer(bytes.length));
  data.set(bytes);
  return { width: Number(width), height: Number(height), data };
}

function work(): void {
  const card = cardOfMethod(methodNamed('round-cord')!);
  parentPort!.on('message', (picture: Plain) => {
    const found =
      (workerData as Kind) === 'cleave' ? measureCleave(picture) : measureEnd(picture as never, card);
    parentPort!.postMessage(found.ok);
  });
  parentPort!.postMessage('ready');
}
