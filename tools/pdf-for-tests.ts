import { inflateSync } from 'node:zlib';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { bytesOf } from '@clear-mark/server';

/** The bytes of a document, by the same maker as in the browser. */
export { bytesOf };

export interface ReadPage {
  readonly widthMm: number;
  readonly heightMm: number;
  /** Straight lines as they were drawn, mm from the upper left corner. */
  readonly lines: readonly (readonly [x1: number, y1: number, x2: number, y2: number])[];
  /** Circles as four curves: centre and diameter, mm. */
  readonly circles: readonly (readonly [x: number, y: number, diameter: number])[];
  readonly rects: readonly (readonly [x: number, y: number, width: number, height: number])[];
}

const MM = 25.4 / 72;

/** Reads lines and rectangles back out of a PDF, by its own operators and coordinates. */
export function readPdf(bytes: Buffer): ReadPage[] {
  const text = bytes.toString('latin1');
  const boxes = [...text.matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)];
  return contentsOf(text).map((content, i) => {
    const widthMm = Number(boxes[i]![1]) * MM;
    const height = Number(boxes[i]![2]);
    const number = String.raw`(-?[\d.]+)`;
    const lines = [
      ...content.matchAll(new RegExp(`${number} ${number} m\\s+${number} ${number} l`, 'g')),
    ].map(([, ...n]) => n.map((v) => Number(v) * MM) as never);
    const rects = [...content.matchAll(new RegExp(`${number} ${number} ${number} ${number} re`, 'g'))].map(
      ([, ...n]) => n.map((v) => Number(v) * MM) as never,
    );
    const curve = String.raw`\s+${number} ${number} ${number} ${number} ${number} ${number} c`;
    const circles = [
      ...content.matchAll(new RegExp(`${number} ${number} m${curve}${curve}${curve}${curve}`, 'g')),
    ].map(([, ...n]) => {
      const at = n.map((v) => Number(v) * MM);
      // It begins at its left end, and its second curve ends at its right one.
      const left = at[0]!;
      const right = at[12]!;
      return [(left + right) / 2, at[1]!, right - left] as const;
    });
    return { circles, widthMm, heightMm: height * MM, lines, rects };
  });
}

/** The drawn content of each page, unpacked, in the order of the pages. */
function contentsOf(text: string): string[] {
  const ids = [...text.matchAll(/\/Type \/Page\n[\s\S]*?\/Contents (\d+) 0 R|\/Contents (\d+) 0 R/g)];
  return ids.map((m) => {
    const id = m[1] ?? m[2]!;
    const at = text.indexOf(`\n${id} 0 obj`);
    const start = text.indexOf('stream\n', at) + 'stream\n'.length;
    const length = Number(/\/Length (\d+)/.exec(text.slice(at, start))![1]);
    const body = Buffer.from(text.slice(start, start + length), 'latin1');
    return text.slice(at, start).includes('FlateDecode')
      ? inflateSync(body).toString('latin1')
      : body.toString('latin1');
  });
}

/** The words of a PDF, page by page, as a reader of another make finds them; all white space left out. */
export async function wordsOfPdf(bytes: Buffer): Promise<string[]> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let number = 1; number <= document.numPages; number += 1) {
    const { items } = await (await document.getPage(number)).getTextContent();
    pages.push(
      items
        .map((item) => ('str' in item ? item.str : ''))
        .join('')
        .replace(/\s/g, ''),
    );
  }
  return pages;
}
