import { createRequire } from 'node:module';
import path from 'node:path';
import type { LetterFile } from '@clear-mark/paper';

const require = createRequire(import.meta.url);
const filesOf = (name: string): string =>
  path.join(path.dirname(require.resolve(`${name}/package.json`)), 'files');

/** The files of the typefaces of paper, by the name that a document calls them. */
export const FONT_FILES: Readonly<Record<LetterFile, { readonly of: string; readonly subset: string }>> = {
  Latin: { of: '@fontsource/atkinson-hyperlegible-next', subset: 'latin' },
  LatinMore: { of: '@fontsource/atkinson-hyperlegible-next', subset: 'latin-ext' },
  Sans: { of: '@fontsource/noto-sans', subset: 'latin' },
  SansMore: { of: '@fontsource/noto-sans', subset: 'latin-ext' },
  Greek: { of: '@fontsource/noto-sans', subset: 'greek' },
  Cyrillic: { of: '@fontsource/noto-sans', subset: 'cyrillic' },
  CyrillicMore: { of: '@fontsource/noto-sans', subset: 'cyrillic-ext' },
  Vietnamese: { of: '@fontsource/noto-sans', subset: 'vietnamese' },
};

export function fontFile(file: LetterFile, weight: 400 | 700): string {
  const { of, subset } = FONT_FILES[file];
  return path.join(filesOf(of), `${of.split('/')[1]!}-${subset}-${weight}-normal.woff`);
}
