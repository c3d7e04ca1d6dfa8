import { readFileSync } from 'node:fs';
import { LETTER_FILES } from '@clear-mark/paper';
import { create } from 'fontkit';
import { describe, expect, it } from 'vitest';
import { fontFile } from '../src/pdf/index.ts';
import { sfntOf } from '../src/pdf/sfnt.ts';

describe('a typeface unpacked from its WOFF', () => {
  it.each(LETTER_FILES)('%s is the same to another reader: letters, widths, name', (file) => {
    const woff = readFileSync(fontFile(file, 400));
    const packed = create(woff);
    const plain = create(sfntOf(woff));
    expect(plain.postscriptName).toBe(packed.postscriptName);
    expect(plain.unitsPerEm).toBe(packed.unitsPerEm);
    expect(plain.characterSet).toEqual(packed.characterSet);
    const letters = String.fromCodePoint(...packed.characterSet.slice(0, 120));
    expect(plain.layout(letters).advanceWidth).toBe(packed.layout(letters).advanceWidth);
  });
  it('refuses what is no WOFF, and one that is cut', () => {
    expect(() => sfntOf(Buffer.from('no font'))).toThrow('no WOFF file');
    const woff = readFileSync(fontFile('Greek', 400));
    expect(() => sfntOf(woff.subarray(0, 2000))).toThrow();
  });
});
