import { LETTER_RANGES } from './letter-ranges.ts';

/** The files of the shipped typefaces, in the order in which a letter is looked for. */
export type LetterFile = keyof typeof LETTER_RANGES;
export const LETTER_FILES = Object.keys(LETTER_RANGES) as readonly LetterFile[];

const fileOf = new Map<number, LetterFile>();
for (const file of [...LETTER_FILES].reverse()) {
  for (const range of LETTER_RANGES[file].split(' ')) {
    const [from, to = from] = range.split('-').map((hex) => parseInt(hex, 16));
    for (let code = from!; code <= to!; code++) fileOf.set(code, file);
  }
}

/** Stands for a letter that no shipped typeface has. */
export const NO_LETTER = '?';

export interface Run {
  readonly text: string;
  readonly file: LetterFile;
}

/**
 * A text as pieces that one file has all letters of; a letter that none has becomes `?`. Letters with marks are put together
 * first. Latin, Greek, Cyrillic and Vietnamese are there; scripts from right to left and those of East Asia are not.
 */
export function runsOf(text: string): Run[] {
  const runs: { text: string; file: LetterFile }[] = [];
  for (const letter of text.normalize('NFC')) {
    const file = fileOf.get(letter.codePointAt(0)!);
    const last = runs[runs.length - 1];
    if (last && last.file === (file ?? 'Latin')) last.text += file ? letter : NO_LETTER;
    else runs.push({ text: file ? letter : NO_LETTER, file: file ?? 'Latin' });
  }
  return runs;
}

/** Whether some letters of a text are in no shipped typeface, such as Chinese or Arabic ones. */
export const lacksLetters = (text: string): boolean =>
  [...text.normalize('NFC')].some((letter) => !fileOf.has(letter.codePointAt(0)!));
