/** Words of a file's name that say when its picture was taken, in English as people name them (common practice). */
const BEFORE = new Set(['before', 'dirty', 'uncleaned']);
const AFTER = new Set(['after', 'clean', 'cleaned']);
/** `after cleaning` says no more than `after`. */
const BESIDE = new Set(['cleaning']);

/** Places of two pictures of one face in the list of names. */
export interface PicturePair {
  readonly before: number;
  readonly after: number;
}

/**
 * Pairs the pictures of faces before and after cleaning by their file names: `LC-07 before.png` with `LC-07 after cleaning.png`.
 * Names are taken apart at blanks, hyphens, underscores, dots and brackets, in any case; what stands beside the word has to
 * be the same, in its order. Where more than one picture could be either, none of them is paired.
 */
export function pairPictures(names: readonly string[]): readonly PicturePair[] {
  const faces = new Map<string, { before: number[]; after: number[] }>();
  names.forEach((name, i) => {
    const read = readName(name);
    if (!read) return;
    const there = faces.get(read.face) ?? { before: [], after: [] };
    there[read.when].push(i);
    faces.set(read.face, there);
  });
  return [...faces.values()].flatMap(({ before, after }) =>
    before.length === 1 && after.length === 1 ? [{ before: before[0]!, after: after[0]! }] : [],
  );
}

/** The face that a name names, and when; null where the name does not say when, or says both. */
function readName(name: string): { face: string; when: 'before' | 'after' } | null {
  const parts = name
    .replace(/\.[a-z0-9]{2,5}$/i, '')
    .toLowerCase()
    .split(/[\s\-_.()[\]]+/)
    .filter((part) => part !== '');
  const isBefore = parts.some((part) => BEFORE.has(part));
  const isAfter = parts.some((part) => AFTER.has(part));
  if (isBefore === isAfter) return null;
  const face = parts.filter((part) => !BEFORE.has(part) && !AFTER.has(part) && !BESIDE.has(part));
  return face.length === 0 ? null : { face: face.join(' '), when: isBefore ? 'before' : 'after' };
}
