import latinBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?inline';
import latin from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?inline';
import latinMoreBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?inline';
import latinMore from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?inline';
import sansBold from '@fontsource/noto-sans/files/noto-sans-latin-700-normal.woff?inline';
import sans from '@fontsource/noto-sans/files/noto-sans-latin-400-normal.woff?inline';
import sansMoreBold from '@fontsource/noto-sans/files/noto-sans-latin-ext-700-normal.woff?inline';
import sansMore from '@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff?inline';
import greekBold from '@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?inline';
import greek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?inline';
import cyrillicBold from '@fontsource/noto-sans/files/noto-sans-cyrillic-700-normal.woff?inline';
import cyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?inline';
import cyrillicMoreBold from '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-700-normal.woff?inline';
import cyrillicMore from '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-400-normal.woff?inline';
import vietnameseBold from '@fontsource/noto-sans/files/noto-sans-vietnamese-700-normal.woff?inline';
import vietnamese from '@fontsource/noto-sans/files/noto-sans-vietnamese-400-normal.woff?inline';
import type { LetterFile } from '@clear-mark/paper';

/** The typefaces of paper, built in as text: by the name that a document calls them, its two weights. */
export const TYPEFACES: Readonly<Record<LetterFile, readonly [normal: string, bold: string]>> = {
  Latin: [latin, latinBold],
  LatinMore: [latinMore, latinMoreBold],
  Sans: [sans, sansBold],
  SansMore: [sansMore, sansMoreBold],
  Greek: [greek, greekBold],
  Cyrillic: [cyrillic, cyrillicBold],
  CyrillicMore: [cyrillicMore, cyrillicMoreBold],
  Vietnamese: [vietnamese, vietnameseBold],
};
