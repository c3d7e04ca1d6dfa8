/** The two files of the shipped typeface, by the code points that each has. */
export const LETTER_FILES = ['Latin', 'LatinMore'] as const;
export type LetterFile = (typeof LETTER_FILES)[number];

const LATIN: readonly (readonly [number, number])[] = [
  [0x20, 0xff],
  [0x131, 0x131],
  [0x152, 0x153],
  [0x2bb, 0x2bc],
  [0x2c6, 0x2c6],
  [0x2da, 0x2da],
  [0x2dc, 0x2dc],
  [0x2010, 0x2027],
  [0x20ac, 0x20ac],
  [0x2122, 0x2122],
  [0x2212, 0x2212],
];
const MORE: readonly (readonly [number, number])[] = [
  [0x100, 0x2ba],
  [0x2bd, 0x2c5],
  [0x2c7, 0x2cc],
  [0x1e00, 0x1e9f],
  [0x1ef2, 0x1eff],
];
const has = (ranges: typeof LATIN, code: number): boolean =>
  ranges.some(([from, to]) => code >= from && code <= to);

/** Stands for a letter that the shipped typeface does not have. */
export const NO_LETTER = '?';

export interface Run {
  readonly text: string;
  readonly file: LetterFile;
}

/** A text as pieces that one file has all letters of; other letters become `?`. Letters with marks are put together first. */
export function runsOf(text: string): Run[] {
  const runs: { text: string; file: LetterFile }[] = [];
  for (const letter of text.normalize('NFC')) {
    const code = letter.codePointAt(0)!;
    const file: LetterFile = has(MORE, code) ? 'LatinMore' : 'Latin';
    const shown = file === 'LatinMore' || has(LATIN, code) ? letter : NO_LETTER;
    const last = runs[runs.length - 1];
    if (last?.file === file) last.text += shown;
    else runs.push({ text: shown, file });
  }
  return runs;
}

/** Whether some letters of a text are not in the shipped typeface, such as Chinese or Arabic ones. */
export const lacksLetters = (text: string): boolean =>
  [...text.normalize('NFC')].some((l) => {
    const code = l.codePointAt(0)!;
    return !has(LATIN, code) && !has(MORE, code);
  });
