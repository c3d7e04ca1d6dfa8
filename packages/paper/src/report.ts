import { codeWords, documentOn, type PdfDocument, words } from './pdf-document.ts';
import type { Paper } from './shapes.ts';

/** One part of a report: read on the page and on paper alike. */
export type ReportBlock =
  | { readonly kind: 'text'; readonly text: string; readonly soft?: boolean }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  | {
      readonly kind: 'table';
      readonly heads: readonly string[];
      /** Columns of numbers, which stand to the right. */
      readonly numbers: readonly number[];
      /** The share of the width that each column takes. */
      readonly weights: readonly number[];
      readonly rows: readonly (readonly string[])[];
    }
  | {
      readonly kind: 'drawing';
      readonly svg: string;
      /** What it shows, for whoever does not see it. */
      readonly words: string;
    }
  | { readonly kind: 'pictures'; readonly pictures: readonly ReportPicture[] };

export interface ReportPicture {
  /** The picture itself, as a `data:` address: PNG or JPEG. */
  readonly src: string;
  readonly words: string;
}

export interface ReportSection {
  readonly heading: string;
  readonly blocks: readonly ReportBlock[];
}

/** What a report says, in order. The page and the PDF are made of it, so that both say the same. */
export interface Report {
  readonly title: string;
  /** Under the title: of whom, where, when. */
  readonly facts: readonly string[];
  readonly sections: readonly ReportSection[];
  /** What a reader checks it by; shown with a code to scan. */
  readonly code?: { readonly text: string; readonly address: string };
}

/** The mark of a pass, as it stands beside each result on the screen. */
const PASS_RING =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><circle cx="50" cy="50" r="36" fill="none" stroke="#0b6460" stroke-width="13"/></svg>';
const SOFT = '#555555';
const BODY_PT = 10;
const DRAWING_PT = 480;
const PICTURE_PT = 155;
const IN_A_ROW = 3;

/** A report as the data of a PDF. */
export function reportDocument(report: Report, paper: Paper): PdfDocument {
  return documentOn(paper, report.title, [
    {
      columns: [
        {
          width: '*',
          stack: [
            { text: words(report.title), fontSize: 20, bold: true, margin: [0, 0, 0, 4], tag: 'H1' },
            ...report.facts.map((fact) => ({ text: words(fact), fontSize: BODY_PT, color: SOFT })),
          ],
        },
        ...(report.code
          ? [
              { width: 92, svg: PASS_RING, fit: [84, 84] },
              {
                width: 96,
                stack: [
                  {
                    qr: report.code.address,
                    eccLevel: 'M',
                    fit: 88,
                    alignment: 'right',
                    alt: codeWords(report.code.address),
                  },
                  { text: words(report.code.text), fontSize: 9, alignment: 'right', margin: [0, 3, 0, 0] },
                ],
              },
            ]
          : []),
      ],
      margin: [0, 0, 0, 10],
    },
    ...report.sections.flatMap(({ heading, blocks }) => [
      // A heading stays with what it is of.
      {
        text: words(heading),
        fontSize: 13,
        bold: true,
        margin: [0, 10, 0, 4],
        headlineLevel: 1,
        tag: 'H2',
      },
      ...blocks.map(blockOf),
    ]),
  ]);
}

function blockOf(block: ReportBlock): object {
  switch (block.kind) {
    case 'text':
      return {
        text: words(block.text),
        fontSize: BODY_PT,
        margin: [0, 0, 0, 4],
        ...(block.soft ? { color: SOFT } : {}),
      };
    case 'list':
      return {
        ul: block.items.map((item) => ({ text: words(item) })),
        fontSize: BODY_PT,
        margin: [0, 0, 0, 4],
      };
    case 'table':
      return tableOf(block);
    case 'drawing':
      return {
        stack: [
          { svg: block.svg, width: DRAWING_PT, alt: block.words },
          { text: words(block.words), fontSize: 9, color: SOFT, margin: [0, 2, 0, 0], isUnread: true },
        ],
        unbreakable: true,
        margin: [0, 0, 0, 6],
      };
    case 'pictures':
      return picturesOf(block.pictures);
    default: {
      const never: never = block;
      return never;
    }
  }
}

/** A few in a row, each with its words below it. */
function picturesOf(pictures: readonly ReportPicture[]): object {
  const rows = Array.from({ length: Math.ceil(pictures.length / IN_A_ROW) }, (_, i) =>
    pictures.slice(i * IN_A_ROW, (i + 1) * IN_A_ROW),
  );
  return {
    stack: rows.map((row) => ({
      columns: row.map(({ src, words: said }) => ({
        width: PICTURE_PT,
        stack: [
          { image: src, fit: [PICTURE_PT, PICTURE_PT], alt: said },
          { text: words(said), fontSize: 9, margin: [0, 2, 0, 0], isUnread: true },
        ],
      })),
      columnGap: 10,
      unbreakable: true,
      margin: [0, 0, 0, 8],
    })),
  };
}

function tableOf({ heads, numbers, weights, rows }: Extract<ReportBlock, { kind: 'table' }>): object {
  const alignment = (column: number): string => (numbers.includes(column) ? 'right' : 'left');
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: weights.map((w) => `${((100 * w) / weights.reduce((a, b) => a + b, 0)).toFixed(2)}%`),
      body: [
        heads.map((head, i) => ({ text: words(head), bold: true, fontSize: 9, alignment: alignment(i) })),
        ...rows.map((row) =>
          row.map((cell, i) => ({ text: words(cell), fontSize: 9.5, alignment: alignment(i) })),
        ),
      ],
    },
    layout: {
      hLineWidth: (line: number) => (line === 0 ? 0 : 0.4),
      vLineWidth: () => 0,
      paddingTop: () => 2.5,
      paddingBottom: () => 2.5,
      paddingLeft: () => 2,
      paddingRight: () => 6,
    },
    margin: [0, 0, 0, 6],
  };
}
