import { readTyped } from '../units/index.ts';

/** Fibers that a person listed, or the part of the text that is none of them. */
export type FiberList =
  | { readonly kind: 'fibers'; readonly fibers: readonly number[] }
  | { readonly kind: 'no_fiber'; readonly text: string; readonly most: number };

/**
 * Fibers by number as they are written, single ones and runs: `3, 7-8`. In rising order, each once; nothing is an empty list.
 * Input: how many fibers there are. Never throws. Example: `7-8, 3` of 12 is 3, 7, 8.
 */
export function readFiberList(text: string, most: number): FiberList {
  const found = new Set<number>();
  for (const part of text.split(/[,;\s]+/).filter((p) => p !== '')) {
    const ends = part.split(/[-–]/).map((end) => readTyped(end, { least: 1, most, whole: true }));
    const [from, to = from] = ends;
    if (ends.length > 2 || from?.kind !== 'number' || to?.kind !== 'number' || to.value < from.value) {
      return { kind: 'no_fiber', text: part.slice(0, 40), most };
    }
    for (let fiber = from.value; fiber <= to.value; fiber++) found.add(fiber);
  }
  return { kind: 'fibers', fibers: [...found].sort((a, b) => a - b) };
}

/** The same list as it is written, runs of three and more with a dash. Example: 3, 7, 8, 9 is `3, 7-9`. */
export function fiberListText(fibers: readonly number[]): string {
  const runs: number[][] = [];
  for (const fiber of fibers) {
    const last = runs[runs.length - 1];
    if (last && fiber === last[last.length - 1]! + 1) last.push(fiber);
    else runs.push([fiber]);
  }
  return runs.map((r) => (r.length > 2 ? `${r[0]}-${r[r.length - 1]}` : r.join(', '))).join(', ');
}
