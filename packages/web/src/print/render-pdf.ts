import type { PdfDocument } from '@clear-mark/paper';

interface Maker {
  addVirtualFileSystem: (files: Record<string, string>) => void;
  setFonts: (fonts: object) => void;
  createPdf: (document: PdfDocument) => { getBlob: () => Promise<Blob> };
}

/** What follows the comma of a file that was built in as text. */
const contentOf = (address: string): string => address.slice(address.indexOf(',') + 1);

let made: Promise<Maker> | null = null;

/** The PDF maker with the shipped typeface; loaded when the first paper is asked for. */
async function load(): Promise<Maker> {
  const module: { default: Maker } = await import('pdfmake/build/pdfmake.js');
  const maker = module.default;
  const { TYPEFACES } = await import('./typefaces.ts');
  const all = Object.entries(TYPEFACES);
  maker.addVirtualFileSystem(
    Object.fromEntries(
      all.flatMap(([name, [normal, bold]]) => [
        [name, contentOf(normal)],
        [`${name}-bold`, contentOf(bold)],
      ]),
    ),
  );
  maker.setFonts(Object.fromEntries(all.map(([name]) => [name, { normal: name, bold: `${name}-bold` }])));
  return maker;
}

/** A document as a PDF file. Errors: those of the network, where the maker or the typeface cannot be loaded. */
export async function pdfOf(document: PdfDocument): Promise<Blob> {
  made ??= load();
  const maker = await made.catch((error: unknown) => {
    made = null;
    throw error;
  });
  return maker.createPdf(document).getBlob();
}
