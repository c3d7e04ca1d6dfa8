import { openSync } from 'fontkit';
import type { LetterFile } from '@clear-mark/paper';
import { FONT_FILES, fontFile } from '@clear-mark/server';

/** The letters that both weights of a file have, as ranges of code points in hex: `20-7e a0`. Marks that stand alone are none. */
export function lettersOf(file: LetterFile): string {
  const [normal, bold] = ([400, 700] as const).map((weight) => {
    const font = openSync(fontFile(file, weight));
    return new Set(font.characterSet);
  });
  const codes = [...normal!]
    .filter((c) => bold!.has(c) && c >= 0x20 && c < 0xffff && !/\p{M}/u.test(String.fromCodePoint(c)))
    .sort((a, b) => a - b);
  const ranges: [number, number][] = [];
  for (const c of codes) {
    const last = ranges[ranges.length - 1];
    if (last && c === last[1] + 1) last[1] = c;
    else ranges.push([c, c]);
  }
  return ranges.map(([a, b]) => (a === b ? a.toString(16) : `${a.toString(16)}-${b.toString(16)}`)).join(' ');
}

export const allLetters = (): Record<LetterFile, string> =>
  Object.fromEntries(
    (Object.keys(FONT_FILES) as LetterFile[]).map((file) => [file, lettersOf(file)]),
  ) as Record<LetterFile, string>;

/** The source of the table of letters in the package of paper. */
export const lettersSource = (): string =>
  `/** Code points of the shipped typefaces by file, in hex; read from the files by \`npm run methods-document\`. */
export const LETTER_RANGES = {
${Object.entries(allLetters())
  .map(([file, ranges]) => `  ${file}:\n    '${ranges}',`)
  .join('\n')}
} as const;
`;
