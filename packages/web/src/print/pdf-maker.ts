import { lettersOfDrawings, type PdfDocument, type PdfMakeParts, tagDocuments } from '@clear-mark/paper';
import base from 'pdfmake/js/base.js';
import layoutBuilder from 'pdfmake/js/LayoutBuilder.js';
import pdfDocument from 'pdfmake/js/PDFDocument.js';
import renderer from 'pdfmake/js/Renderer.js';
import { TYPEFACES } from './typefaces.ts';

/** A file of pdfmake has what it is of under `default`, however it was built. */
const partOf = <T>(file: object): T => {
  const of = file as { default?: T };
  return of.default ?? (file as T);
};

/** Files by their names, kept in memory: there is no disk. */
class Files {
  readonly #files = new Map<string, Uint8Array>();
  existsSync(name: unknown): boolean {
    return this.#files.has(name as string);
  }
  readFileSync(name: string): Uint8Array {
    return this.#files.get(name)!;
  }
  writeFileSync(name: string, bytes: Uint8Array): void {
    this.#files.set(name, bytes);
  }
}

/** A document as it is drawn: its bytes come out of it in pieces once it is told to end. */
interface Drawn {
  on: (event: 'data' | 'end' | 'error', told: (what: never) => void) => void;
  end: () => void;
}
interface Maker {
  virtualfs: Files;
  setFonts: (fonts: object) => void;
  localAccessPolicy: () => boolean;
  setUrlAccessPolicy: (policy: () => boolean) => void;
  createPdf: (document: PdfDocument) => Promise<Drawn>;
}

/** What follows the comma of a file that was built in as text. */
const bytesOf = (address: string): Uint8Array =>
  Uint8Array.from(atob(address.slice(address.indexOf(',') + 1)), (letter) => letter.charCodeAt(0));

function made(): Maker {
  const maker = new (partOf<new () => Maker>(base))();
  maker.virtualfs = new Files();
  const letters = new Map<string, Uint8Array>();
  for (const [name, [normal, bold]] of Object.entries(TYPEFACES))
    letters.set(name, bytesOf(normal)).set(`${name}-bold`, bytesOf(bold));
  for (const [name, bytes] of letters) maker.virtualfs.writeFileSync(name, bytes);
  maker.setFonts(
    Object.fromEntries(Object.keys(TYPEFACES).map((name) => [name, { normal: name, bold: `${name}-bold` }])),
  );
  // The shipped typefaces alone: nothing from the network.
  maker.localAccessPolicy = () => false;
  maker.setUrlAccessPolicy(() => false);
  tagDocuments({
    LayoutBuilder: partOf<PdfMakeParts['LayoutBuilder']>(layoutBuilder),
    Renderer: partOf<PdfMakeParts['Renderer']>(renderer),
  });
  lettersOfDrawings(partOf<PdfMakeParts['Renderer']>(pdfDocument), letters);
  return maker;
}
const maker = made();

/** A document as a PDF file. */
export async function makePdf(document: PdfDocument): Promise<Blob> {
  const drawn = await maker.createPdf(document);
  const pieces: Uint8Array<ArrayBuffer>[] = [];
  return new Promise((resolve, reject) => {
    drawn.on('data', (piece: Uint8Array<ArrayBuffer>) => pieces.push(piece));
    drawn.on('end', () => resolve(new Blob(pieces, { type: 'application/pdf' })));
    drawn.on('error', reject);
    drawn.end();
  });
}
