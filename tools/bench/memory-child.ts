import { readFileSync, writeFileSync } from 'node:fs';
import {
  cardOfMethod,
  faceCriteria,
  type GreyImage,
  measureCleave,
  measureEnd,
  measureFace,
} from '@clear-mark/core';
import { methodNamed } from '../card-command.ts';

/*
 * A process of its own measures one picture and says by how many bytes it has grown at most meanwhile, as the kernel of
 * Linux counts it. Arguments: `cleave`, `end` or `face`, then file, width and height of plain levels to warm up with, then of those that count.
 */

const [kind, ...files] = process.argv.slice(2);
const card = cardOfMethod(methodNamed('round-cord')!);
const criteria = faceCriteria('sm-pc')!;
const small = plain(files.slice(0, 3));
const large = plain(files.slice(3, 6));

measured(small);
// The peak is counted anew from here on (proc(5), clear_refs).
writeFileSync('/proc/self/clear_refs', '5');
const before = statusBytes('VmRSS');
if (!measured(large)) throw new Error('the picture was refused');
console.log(statusBytes('VmHWM') - before);

function plain([file, width, height]: readonly string[]): GreyImage {
  return { width: Number(width), height: Number(height), data: new Uint8Array(readFileSync(file!)) };
}

function measured(picture: GreyImage): boolean {
  if (kind === 'cleave') return measureCleave(picture).ok;
  return kind === 'end' ? measureEnd(picture, card).ok : measureFace(picture, criteria).ok;
}

function statusBytes(field: 'VmRSS' | 'VmHWM'): number {
  const line = new RegExp(`^${field}:\\s+(\\d+) kB$`, 'm').exec(readFileSync('/proc/self/status', 'utf8'));
  return Number(line![1]) * 1024;
}
