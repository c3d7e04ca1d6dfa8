import type { PdfDocument } from '@clear-mark/paper';

/** A document as a PDF file. Errors: those of the network, where the maker or the typeface cannot be loaded. */
export const pdfOf = async (document: PdfDocument): Promise<Blob> =>
  (await import('./pdf-maker.ts')).makePdf(document);
