import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { LETTER_FILES, lettersOfDrawings, type PdfDocument, tagDocuments } from '@clear-mark/paper';
import { fontFile } from './font-files.ts';
import { sfntOf } from './sfnt.ts';

interface Maker {
  virtualfs: { writeFileSync: (name: string, bytes: Buffer) => void };
  setFonts: (fonts: object) => void;
  setLocalAccessPolicy: (policy: () => boolean) => void;
  setUrlAccessPolicy: (policy: () => boolean) => void;
  createPdf: (document: PdfDocument) => { getBuffer: () => Promise<Buffer> };
}

/** Made when it is first asked for: it is large, and most processes never set a page. */
let made: Maker | null = null;
function maker(): Maker {
  if (made) return made;
  const require = createRequire(import.meta.url);
  made = require('pdfmake') as Maker;
  tagDocuments({
    LayoutBuilder: require('pdfmake/js/LayoutBuilder.js').default,
    Renderer: require('pdfmake/js/Renderer.js').default,
  });
  const fonts: Record<string, { normal: string; bold: string }> = {};
  const letters = new Map<string, Buffer>();
  for (const file of LETTER_FILES) {
    fonts[file] = { normal: `${file}-400`, bold: `${file}-700` };
    for (const weight of [400, 700] as const)
      letters.set(`${file}-${weight}`, sfntOf(readFileSync(fontFile(file, weight))));
  }
  for (const [name, bytes] of letters) made.virtualfs.writeFileSync(name, bytes);
  made.setFonts(fonts);
  lettersOfDrawings(require('pdfmake/js/PDFDocument.js').default, letters);
  // The shipped typefaces alone: nothing from the disk, nothing from the network.
  made.setLocalAccessPolicy(() => false);
  made.setUrlAccessPolicy(() => false);
  return made;
}

/** The bytes of a document, by the same maker as in the browser. */
export const bytesOf = (document: PdfDocument): Promise<Buffer> => maker().createPdf(document).getBuffer();
