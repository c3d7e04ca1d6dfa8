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

/** An element of a PDF's structure: what it is, what it says (all white space left out) or stands for, and what it holds. */
export interface ReadPart {
  readonly role: string;
  readonly alt?: string;
  readonly text: string;
  readonly parts: readonly ReadPart[];
}
interface StructureNode {
  readonly role?: string;
  readonly alt?: string;
  readonly type?: string;
  readonly id?: string;
  readonly children?: readonly StructureNode[];
}

/** The structure of each page, with the words that it marks, as a reader of another make finds it; what is marked as nothing to be read is told apart. */
export async function partsOfPdf(bytes: Buffer): Promise<{
  readonly isMarked: boolean;
  readonly pages: readonly ReadPart[];
  readonly unread: readonly string[];
}> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: ReadPart[] = [];
  const unread: string[] = [];
  for (let number = 1; number <= document.numPages; number += 1) {
    const page = await document.getPage(number);
    const { items } = await page.getTextContent({ includeMarkedContent: true });
    const said = new Map<string, string>();
    let open: string | null = null;
    let aside = '';
    for (const item of items) {
      if ('str' in item) {
        if (open === null) aside += item.str;
        else said.set(open, (said.get(open) ?? '') + item.str);
      } else if (item.type === 'beginMarkedContentProps') open = item.id;
      else if (item.type === 'endMarkedContent') open = null;
    }
    unread.push(aside.replace(/\s/g, ''));
    const read = ({ role = '', alt, children = [] }: StructureNode): ReadPart => ({
      role,
      ...(alt === undefined ? {} : { alt }),
      text: children
        .map((c) => (c.type === 'content' ? (said.get(c.id!) ?? '') : ''))
        .join('')
        .replace(/\s/g, ''),
      parts: children.filter((c) => c.type !== 'content').map(read),
    });
    pages.push(read((await page.getStructTree()) as StructureNode));
  }
  const info = (await document.getMarkInfo()) as { Marked?: boolean } | null;
  return { isMarked: info?.Marked === true, pages, unread };
}
