import type { Caution, Criterion, MethodSheet, Step } from '@clear-mark/core';
import { STEP_DRAWINGS, type StepDrawing } from '@clear-mark/methods/drawings';
import { skillWords, sourceWords } from '@clear-mark/words';
import { codeFor } from './labels.ts';
import { codeWords, documentOn, type PdfDocument, pt, words } from './pdf-document.ts';
import type { Paper } from './shapes.ts';

/** How the parts of a step's drawing look in black on white. */
const STROKES: Readonly<Record<'line' | 'thin' | 'part' | 'fiber' | 'glow' | 'wrong', string>> = {
  line: 'fill="none" stroke="#000" stroke-width="2.4"',
  thin: 'fill="none" stroke="#555" stroke-width="1.4"',
  part: 'fill="#e6e6e6" stroke="#555" stroke-width="1.6"',
  fiber: 'fill="none" stroke="#000" stroke-width="3.4"',
  glow: 'fill="#ddd" stroke="#000" stroke-width="2.4"',
  wrong: 'fill="none" stroke="#000" stroke-width="3" stroke-dasharray="5 3"',
};

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

/** A step's drawing as SVG, in the shipped typeface. */
function svgOf({ width, height, marks }: StepDrawing): string {
  const parts = marks.map((m) =>
    m.style === 'word'
      ? `<text x="${m.x}" y="${m.y}" font-family="Latin" font-size="14">${escaped(m.text)}</text>`
      : `<path d="${m.path}" ${STROKES[m.style]} stroke-linecap="round" stroke-linejoin="round"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${parts.join('')}</svg>`;
}

/** A caution in a frame; one that ends the piece has a heavy one. */
const cautionOf = ({ text, stop }: Caution): object => ({
  table: {
    widths: ['*'],
    body: [[{ text: words(stop ? `Stop: ${text}` : text), bold: stop, fontSize: 11 }]],
  },
  layout: {
    hLineWidth: () => (stop ? 2 : 0.6),
    vLineWidth: () => (stop ? 2 : 0.6),
    paddingTop: () => 4,
    paddingBottom: () => 4,
    paddingLeft: () => 6,
    paddingRight: () => 6,
  },
  margin: [0, 0, 0, 4],
});

/** Drawings are as wide as this, mm. */
const DRAWING_MM = 62;

function stepOf(step: Step, number: number, limitOf: (c: Criterion) => string): object {
  const drawing = step.drawing === undefined ? undefined : STEP_DRAWINGS[step.drawing];
  const scored = step.criteria.map((c) => ({
    text: words([c.label, limitOf(c)].filter((w) => w !== '').join(': ')),
    bold: c.critical || c.stop === true,
    fontSize: 11,
  }));
  return {
    unbreakable: true,
    margin: [0, 6, 0, 6],
    stack: [
      {
        columns: [
          { width: pt(11), text: String(number), fontSize: 20, bold: true },
          {
            width: '*',
            stack: [
              {
                tag: 'H2',
                text: [
                  ...words(step.title).map((run) => ({ ...run, bold: true, fontSize: 14 })),
                  ...words(`  ${skillWords(step.skill)}`).map((run) => ({ ...run, fontSize: 10 })),
                ],
              },
              ...(step.how === '' ? [] : [{ text: words(step.how), fontSize: 11, margin: [0, 2, 0, 3] }]),
              ...(step.cautions ?? []).map(cautionOf),
              { ul: scored, margin: [0, 2, 0, 0] },
            ],
          },
          ...(drawing
            ? [
                {
                  width: pt(DRAWING_MM),
                  svg: svgOf(drawing),
                  alt: drawing.says,
                  fit: [pt(DRAWING_MM), pt(45)],
                },
              ]
            : []),
        ],
        columnGap: 8,
      },
    ],
  };
}

/**
 * A method for the wall: cautions first, then each step with how it is done, its drawing and what is scored, to be read from
 * the bench. `limitOf` says a criterion's limit in words. Critical criteria are bold. A step is not broken over two pages.
 */
export function wallSheetDocument(
  sheet: MethodSheet,
  limitOf: (c: Criterion) => string,
  paper: Paper,
): PdfDocument {
  const below = `version ${sheet.version} · pass mark ${sheet.passMarkPercent} % (${sourceWords(sheet.passMarkSource)})`;
  return documentOn(paper, `${sheet.title}, version ${sheet.version}`, [
    {
      columns: [
        {
          width: '*',
          stack: [
            { text: words(sheet.title), fontSize: 24, bold: true, tag: 'H1' },
            { text: words(sheet.summary), fontSize: 12, margin: [0, 2, 0, 2] },
            { text: words(below), fontSize: 9 },
          ],
        },
        {
          width: pt(26),
          qr: codeFor('method', sheet.id, String(sheet.version)),
          eccLevel: 'L',
          fit: pt(25),
          alignment: 'right',
          alt: codeWords(codeFor('method', sheet.id, String(sheet.version))),
        },
      ],
      margin: [0, 0, 0, 8],
    },
    ...sheet.cautions.map(cautionOf),
    ...sheet.steps.map((step, i) => stepOf(step, i + 1, limitOf)),
    {
      text: words(
        'These are the school’s working cautions. Local codes and the makers’ instructions go before them; licensed work is for those who hold the licence.',
      ),
      fontSize: 9,
      margin: [0, 8, 0, 0],
    },
  ]);
}
