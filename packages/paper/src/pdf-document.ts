import { runsOf } from './letters.ts';
import type { Cell, PaperTable, ScoreSheet } from './score-sheet.ts';
import { type Page, type Paper, PAPERS, type Point, type Shape } from './shapes.ts';

/** A document as pdfmake takes it: plain data. */
export type PdfDocument = Readonly<Record<string, unknown>>;

/** Points a millimetre: a PDF's unit is 1/72 of an inch. */
const PT = 72 / 25.4;
export const pt = (mm: number): number => mm * PT;
const BASE = {
  defaultStyle: { font: 'Latin', fontSize: 10, lineHeight: 1.1 },
  compress: true,
  // To be read aloud: its parts are told by `tagDocuments`.
  version: '1.7',
  tagged: true,
  displayTitle: true,
  language: 'en-GB',
} as const;

export const words = (text: string): object[] =>
  runsOf(text).map(({ text: part, file }) => ({ text: part, font: file }));

/** What a code to scan says, for whoever has the page read aloud. */
export const codeWords = (said: string): string => `Code to scan: ${said}`;

/** A document whose content flows over upright pages, its title and their numbers below. */
export function documentOn(paper: Paper, title: string, content: readonly object[]): PdfDocument {
  const { widthMm, heightMm } = PAPERS[paper];
  return {
    ...BASE,
    info: { title },
    pageSize: { width: pt(widthMm), height: pt(heightMm) },
    pageMargins: [pt(14), pt(12), pt(14), pt(14)],
    footer: (page: number, pages: number) => ({
      text: words(`${title}. Page ${page} of ${pages}`),
      fontSize: 8,
      margin: [pt(14), pt(3), pt(14), 0],
    }),
    content,
  };
}

/** Pages of shapes as a PDF, each shape at its own place. */
export function shapesDocument(title: string, paper: Paper, pages: readonly Page[]): PdfDocument {
  const { widthMm, heightMm } = PAPERS[paper];
  return {
    ...BASE,
    info: { title },
    pageSize: { width: pt(widthMm), height: pt(heightMm) },
    pageMargins: [0, 0, 0, 0],
    content: pages.map((page, i) => ({
      stack: [
        { canvas: page.shapes.flatMap(vectorOf), absolutePosition: { x: 0, y: 0 } },
        ...page.shapes.flatMap(writtenOf),
        // Something in the flow, or the page would be empty to the layout.
        { text: ' ', fontSize: 1 },
      ],
      ...(i > 0 ? { pageBreak: 'before' } : {}),
    })),
  };
}

const grey = (level: number): string => {
  const hex = Math.round(255 * level)
    .toString(16)
    .padStart(2, '0');
  return `#${hex}${hex}${hex}`;
};
const at = ([x, y]: Point): { x: number; y: number } => ({ x: pt(x), y: pt(y) });

const inkOf = ({ fill, strokeMm }: { readonly fill?: number; readonly strokeMm?: number }): object => ({
  ...(fill === undefined ? {} : { color: grey(fill) }),
  ...(strokeMm === undefined ? { lineWidth: 0 } : { lineWidth: pt(strokeMm), lineColor: '#000000' }),
});

function vectorOf(shape: Shape): object[] {
  if (shape.kind === 'line') {
    const { from, to, widthMm, dashed } = shape;
    return [
      {
        type: 'line',
        x1: pt(from[0]),
        y1: pt(from[1]),
        x2: pt(to[0]),
        y2: pt(to[1]),
        lineWidth: pt(widthMm),
        ...(dashed ? { dash: { length: 3 } } : {}),
      },
    ];
  }
  if (shape.kind === 'circle') {
    const r = pt(shape.diameterMm / 2);
    return [{ type: 'ellipse', ...at(shape.at), r1: r, r2: r, ...inkOf(shape) }];
  }
  if (shape.kind === 'polygon')
    return [{ type: 'polyline', closePath: true, points: shape.points.map(at), ...inkOf(shape) }];
  if (shape.kind !== 'rect') return [];
  return [
    {
      type: 'rect',
      ...at(shape.at),
      w: pt(shape.widthMm),
      h: pt(shape.heightMm),
      ...inkOf(shape),
    },
  ];
}

function writtenOf(shape: Shape): object[] {
  if (shape.kind === 'code') {
    return [
      {
        qr: shape.text,
        eccLevel: 'L',
        fit: pt(shape.sideMm),
        absolutePosition: at(shape.at),
        alt: codeWords(shape.text),
      },
    ];
  }
  if (shape.kind !== 'text') return [];
  const { sizePt, bold, align, widthMm } = shape;
  return [
    {
      columns: [
        {
          width: pt(widthMm),
          text: words(shape.text),
          fontSize: sizePt,
          bold: bold ?? false,
          alignment: align === 'middle' ? 'center' : (align ?? 'left'),
        },
      ],
      absolutePosition: at(shape.at),
    },
  ];
}

/** A score sheet as a PDF: its head on the first page, the heads of its columns on each. */
export function scoreSheetDocument(sheet: ScoreSheet, paper: Paper): PdfDocument {
  const { widthMm, heightMm } = PAPERS[paper];
  const wide = sheet.legend.length > 0;
  return {
    ...BASE,
    info: { title: sheet.title },
    pageSize: { width: pt(widthMm), height: pt(heightMm) },
    pageOrientation: wide ? 'landscape' : 'portrait',
    pageMargins: [pt(12), pt(12), pt(12), pt(14)],
    footer: (page: number, pages: number) => ({
      text: words(`${sheet.title}, ${sheet.below}. Page ${page} of ${pages}`),
      fontSize: 8,
      margin: [pt(12), pt(3), pt(12), 0],
    }),
    content: [
      {
        columns: [
          {
            width: '*',
            stack: [
              { text: words(sheet.title), fontSize: 16, bold: true, tag: 'H1' },
              { text: words(sheet.below), fontSize: 9, margin: [0, 2, 0, 6] },
              { columns: [0, 1].map((side) => linesOf(sheet.lines, side)), columnGap: 12 },
            ],
          },
          {
            width: pt(22),
            qr: sheet.code,
            eccLevel: 'L',
            fit: pt(21),
            alignment: 'right',
            alt: codeWords(sheet.code),
          },
        ],
        margin: [0, 0, 0, 8],
      },
      ...(wide ? [{ text: words(sheet.legend.join('   ')), fontSize: 8, margin: [0, 0, 0, 6] }] : []),
      ...sheet.tables.map((table, i) => ({ ...tableOf(table), ...(i > 0 ? { pageBreak: 'before' } : {}) })),
    ],
  };
}

/** Every second line, each with room to write in. */
const linesOf = (lines: readonly string[], side: number): object => ({
  stack: lines
    .filter((_, i) => i % 2 === side)
    .map((l) => ({ text: words(l), fontSize: 10, margin: [0, 3, 0, 3] })),
});

function tableOf({ heads, widthsMm, rows }: PaperTable): object {
  const head = heads.map((text) => ({ text: words(text), bold: true, fontSize: 9 }));
  const body = rows.map((row) =>
    'across' in row
      ? [
          { text: words(row.across), bold: true, fontSize: 10, colSpan: heads.length, fillColor: '#eeeeee' },
          ...heads.slice(1).map(() => ''),
        ]
      : row.map(cellOf),
  );
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: widthsMm.map((w) => (w === '*' ? '*' : pt(w))),
      body: [head, ...body],
    },
    layout: {
      hLineWidth: () => 0.4,
      vLineWidth: () => 0,
      paddingTop: () => 2.5,
      paddingBottom: () => 2.5,
      paddingLeft: () => 3,
      paddingRight: () => 3,
    },
  };
}

const box = (x: number, w: number, h: number): object => ({ type: 'rect', x, y: 0, w, h, lineWidth: 0.6 });
function cellOf(cell: Cell): object {
  if ('words' in cell) {
    return { text: words(cell.words), bold: cell.bold ?? false, fontSize: cell.small ? 8.5 : 10 };
  }
  switch (cell.box) {
    case 'pass_fail':
      return {
        columns: [
          { width: 14, canvas: [box(0, 11, 11)] },
          { width: 18, text: 'pass', fontSize: 7, margin: [0, 2, 0, 0] },
          { width: 14, canvas: [box(0, 11, 11)] },
          { width: 14, text: 'fail', fontSize: 7, margin: [0, 2, 0, 0] },
        ],
      };
    case 'value':
      return { canvas: [box(0, pt(22), 15)] };
    case 'mark':
      return { canvas: [box(0, pt(9), 13)] };
    default: {
      const never: never = cell.box;
      return never;
    }
  }
}
