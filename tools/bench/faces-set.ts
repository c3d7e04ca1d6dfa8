import { fork } from 'node:child_process';
import os from 'node:os';
import { fileURLToPath } from 'node:url';
import { faceCriteria } from '@clear-mark/core';
import { type Judged, type Tally, tallyOf } from '../../packages/sim/src/tally-for-tests.ts';
import type { SetOrder } from './faces-set-worker.ts';
import type { Measured } from './measured.ts';

const FACES = 200;
const PC = faceCriteria('sm-pc')!;
const GOAL = 0.95;

/**
 * How good the engine is on a set of 200 fresh faces: the worst of recall and precision of either kind and of the
 * agreement of the grades, as the share wrong over what may be wrong.
 */
export async function benchFacesSet(set: SetOrder['set']): Promise<Measured> {
  const first = 1_000_000 + Math.floor((Date.now() / 1000) % 1_000_000);
  const cores = os.cpus().length;
  const seeds = Array.from({ length: FACES }, (_, i) => first + i);
  const parts = await Promise.all(
    Array.from({ length: cores }, (_, c) =>
      judgedBy({ set, seeds: seeds.filter((_seed, i) => i % cores === c) }),
    ),
  );
  const tally = tallyOf(parts.flat(), PC);
  const shares = [...[tally.defect, tally.scratch].flatMap((k) => [k.recall, k.precision]), tally.agreement];
  return {
    name: `Wrong of 200 ${set === 'ours' ? 'simulated' : 'otherwise drawn'} faces / what may be wrong (5 %)`,
    ratio: (1 - Math.min(...shares)) / (1 - GOAL),
    most: 1,
    unit: 'times',
    detail: words(tally, first),
  };
}

function judgedBy(order: SetOrder): Promise<Judged[]> {
  return new Promise((resolve, reject) => {
    const worker = fork(fileURLToPath(new URL('./faces-set-worker.ts', import.meta.url)), [], {
      execArgv: ['--import', 'tsx'],
    });
    worker.on('message', (judged: Judged[]) => resolve(judged));
    worker.on('error', reject);
    worker.on('exit', (code) => code !== 0 && reject(new Error(`drawing stopped: ${code}`)));
    worker.send(order);
  });
}

const share = (x: number): string => x.toFixed(3);

function words(t: Tally, first: number): string {
  const kind = (k: Tally['defect']): string =>
    `recall ${share(k.recall)}, precision ${share(k.precision)}, size error ${share(k.medianError)} (n ${k.n})`;
  return [
    `defects ${kind(t.defect)}`,
    `scratches ${kind(t.scratch)}`,
    `grades agree ${share(t.agreement)}, ${t.falsePasses} of ${t.bad} bad ones passed`,
    `scale within ${(100 * t.scale95).toFixed(2)} %, centre within ${t.centre95Um.toFixed(2)} um in 95 %`,
    `${t.refused} refused; seeds from ${first}`,
  ].join('; ');
}
