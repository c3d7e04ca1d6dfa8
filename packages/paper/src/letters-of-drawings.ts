interface Lettered {
  font: (source: unknown, ...more: unknown[]) => unknown;
  registerFont: (name: string, source: Uint8Array) => void;
}

/**
 * Hands the shipped typefaces to the drawings of a document of pdfmake (0.3), by the names that its texts call them: the words in a
 * drawing ask the document for a typeface by its name, which would be looked for on a disk. To be called once.
 */
export function lettersOfDrawings(
  documents: { readonly prototype: object },
  letters: ReadonlyMap<string, Uint8Array>,
): void {
  const document = documents.prototype as Lettered;
  const { font } = document;
  document.font = function (source, ...more) {
    const bytes = typeof source === 'string' ? letters.get(source) : undefined;
    if (bytes) this.registerFont(source as string, bytes);
    return font.call(this, source, ...more);
  };
}
