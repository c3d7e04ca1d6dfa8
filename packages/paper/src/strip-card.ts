import type { MethodSheet, StripGeometry } from '@clear-mark/core';
import { codeFor } from './labels.ts';
import { line, type Page, type Paper, PAPERS, type Point, type Shape } from './shapes.ts';

/** A mark of a card, and where it stands on the paper. */
export interface CardMark {
  readonly name: 'end' | 'cut' | 'buffer' | 'jacket';
  /** From the stripped end of the fiber, mm. */
  readonly fromEndMm: number;
  readonly page: number;
  readonly atMm: Point;
}
/** Black squares at the corners of a card, by which a photograph of it is measured: their middles on the paper. */
export interface CardCorners {
  readonly page: number;
  readonly sideMm: number;
  readonly middlesMm: readonly [Point, Point, Point, Point];
}
export interface StripCard {
  readonly paper: Paper;
  readonly pages: readonly Page[];
  readonly marks: readonly CardMark[];
  readonly corners: readonly CardCorners[];
}

const MARGIN = 12;
/** Inside of a card, beside its marks. */
const INNER = 9;
const CARD_HEIGHT = 62;
const GAP = 4;
/** Strips of one card share so much where they are put end to end. */
const OVERLAP = 10;
const CORNER = 4;
/** The fiber lies this far under the card's upper edge. */
const AXIS = 35;
const HALF = { jacket: 5, buffer: 2.2, glass: 0.8 } as const;
/** A bank card, by which anyone can check a printer: ISO/IEC 7810, ID-1. */
const BANK_CARD = { widthMm: 85.6, heightMm: 53.98 } as const;
const CHECK_BAR = 100;

interface Part {
  readonly fromMm: number;
  readonly toMm: number;
}

/**
 * The card that a strip is laid on: the lengths of a method at true size, each mark with its distance from the stripped end
 * in mm and inches, the method's version and a code. A length that is longer than the paper goes on over further strips that
 * share 10 mm. On each page a bar of 100 mm and the outline of a bank card check the printer. Input: a sheet with strip
 * lengths, the paper, how many of the same card (1 to 8). Output in mm from the paper's upper left corner. Null for a method
 * without strip lengths.
 */
export function stripCard(sheet: MethodSheet, paper: Paper, copies = 1): StripCard | null {
  const { strip } = sheet;
  if (!strip) return null;
  const { widthMm, heightMm } = PAPERS[paper];
  const longest = Math.max(strip.jacketMm, strip.bufferMm);
  const parts = partsOf(longest + 12, widthMm - 2 * MARGIN - 2 * INNER);
  const cards = Array.from({ length: Math.max(1, Math.min(8, copies)) }, () => parts).flat();
  const aPage = Math.max(
    1,
    Math.floor((heightMm - 2 * MARGIN - BANK_CARD.heightMm - 10) / (CARD_HEIGHT + GAP)),
  );
  const pages: Shape[][] = [];
  const marks: CardMark[] = [];
  const corners: CardCorners[] = [];
  cards.forEach((part, i) => {
    const page = Math.floor(i / aPage);
    const shapes = (pages[page] ??= pageFrame(paper));
    const top = MARGIN + (i % aPage) * (CARD_HEIGHT + GAP);
    const card = cardAt([MARGIN, top], widthMm - 2 * MARGIN, part, parts, sheet, strip);
    shapes.push(...card.shapes);
    marks.push(...card.marks.map((m) => ({ ...m, page })));
    corners.push({ page, sideMm: CORNER, middlesMm: card.corners });
  });
  return { paper, pages: pages.map((shapes) => ({ shapes })), marks, corners };
}

function partsOf(wholeMm: number, roomMm: number): Part[] {
  const parts: Part[] = [];
  for (let from = 0; from === 0 || from + OVERLAP < wholeMm; from += roomMm - OVERLAP) {
    parts.push({ fromMm: from, toMm: Math.min(wholeMm, from + roomMm) });
  }
  return parts;
}

/** What each page has to check the printer by. */
function pageFrame(paper: Paper): Shape[] {
  const { heightMm } = PAPERS[paper];
  const top = heightMm - MARGIN - BANK_CARD.heightMm;
  const bar = MARGIN + BANK_CARD.widthMm + 4;
  const right = bar + CHECK_BAR > PAPERS[paper].widthMm - 4 ? PAPERS[paper].widthMm - 4 - CHECK_BAR : bar;
  const y = top + 12;
  const ticks = Array.from({ length: 11 }, (_, i) =>
    line([right + 10 * i, y], [right + 10 * i, y - (i % 5 === 0 ? 4 : 2.5)]),
  );
  return [
    { kind: 'rect', at: [MARGIN, top], ...BANK_CARD, strokeMm: 0.25 },
    text(
      [MARGIN + 4, top + 5],
      'A bank card fits this frame where the paper is printed at its true size.',
      9,
      76,
    ),
    line([right, y], [right + CHECK_BAR, y], 0.5),
    ...ticks,
    text([right, y + 1.5], '100 mm. Print at 100 %, not “fit to page”.', 9, 96),
  ];
}

const text = (at: Point, words: string, sizePt: number, widthMm: number, more: object = {}): Shape => ({
  kind: 'text',
  at,
  text: words,
  sizePt,
  widthMm,
  ...more,
});

interface DrawnCard {
  readonly shapes: readonly Shape[];
  readonly marks: readonly Omit<CardMark, 'page'>[];
  readonly corners: CardCorners['middlesMm'];
}

function cardAt(
  [left, top]: Point,
  widthMm: number,
  part: Part,
  parts: readonly Part[],
  sheet: MethodSheet,
  strip: StripGeometry,
): DrawnCard {
  const x = (fromEndMm: number): number => left + INNER + fromEndMm - part.fromMm;
  const y = top + AXIS;
  const marks = marksOf(strip)
    .filter((m) => m.fromEndMm >= part.fromMm && m.fromEndMm <= part.toMm)
    .map((m) => ({ ...m, atMm: [x(m.fromEndMm), y] as const }));
  const corners = [
    [left + 3, top + 3],
    [left + widthMm - 3, top + 3],
    [left + widthMm - 3, top + CARD_HEIGHT - 3],
    [left + 3, top + CARD_HEIGHT - 3],
  ] as const;
  return {
    marks,
    corners,
    shapes: [
      ...frameOf(left, top, widthMm),
      ...corners.map(([cx, cy]): Shape => ({
        kind: 'rect',
        at: [cx - CORNER / 2, cy - CORNER / 2],
        widthMm: CORNER,
        heightMm: CORNER,
        fill: 0,
      })),
      ...headOf(sheet, part, parts, left, top, widthMm),
      { kind: 'code', at: [left + widthMm - 29, top + 2], sideMm: 21, text: codeOf(sheet) },
      ...layersOf(strip, part, x, y),
      ...marks.flatMap((m, i) => markShapes(m, marks.length - 1 - i, y, left + widthMm, strip.cleaveMm)),
      ...joints(part, parts, x, y),
    ],
  };
}

/** Letters of a name that stand in one line of a card. */
const ONE_LINE = 66;

function headOf(
  sheet: MethodSheet,
  part: Part,
  parts: readonly Part[],
  left: number,
  top: number,
  widthMm: number,
): Shape[] {
  const which = parts.length === 1 ? '' : `strip ${parts.indexOf(part) + 1} of ${parts.length} · `;
  const below = `${which}version ${sheet.version} · ${sheet.fiberClass} · ${sheet.id}`;
  const room = widthMm - 40;
  const lower = sheet.title.length > ONE_LINE ? 12 : 7.5;
  return [
    text([left + 8, top + 2], sheet.title, 11, room, { bold: true }),
    text([left + 8, top + lower], below, 8, room),
  ];
}

/** What a scanner reads from a card: which version of which method. */
export const codeOf = ({ id, version }: MethodSheet): string => codeFor('method', id, String(version));

function frameOf(left: number, top: number, widthMm: number): Shape[] {
  const right = left + widthMm;
  const bottom = top + CARD_HEIGHT;
  return [
    line([left, top], [right, top], 0.2, true),
    line([right, top], [right, bottom], 0.2, true),
    line([right, bottom], [left, bottom], 0.2, true),
    line([left, bottom], [left, top], 0.2, true),
  ];
}

/** The lengths that are marked, from the stripped end: where a length is 0 there is nothing to mark. */
function marksOf({ jacketMm, bufferMm, cleaveMm }: StripGeometry): Pick<CardMark, 'name' | 'fromEndMm'>[] {
  const cut = bufferMm - cleaveMm;
  return [
    { name: 'end' as const, fromEndMm: 0 },
    ...(cut > 0 ? [{ name: 'cut' as const, fromEndMm: cut }] : []),
    ...(bufferMm > 0 ? [{ name: 'buffer' as const, fromEndMm: bufferMm }] : []),
    ...(jacketMm > 0 ? [{ name: 'jacket' as const, fromEndMm: jacketMm }] : []),
  ];
}
const MARK_WORDS = {
  end: 'end of the fiber here',
  cut: 'cleave here',
  buffer: 'buffer begins',
  jacket: 'jacket begins',
} as const;

/** Inches of a length, to the thousandth. */
const inches = (mm: number): string => (mm / 25.4).toFixed(3);

/** Room that the words of a mark need beside it, mm. */
const WORDS_ROOM = 88;

/**
 * A mark with its words. Those nearer to the end of the fiber stand lower, so that no line runs through the words of another;
 * where there is no room at the right they stand above, at the left.
 */
function markShapes(
  { name, fromEndMm, atMm: [x] }: Omit<CardMark, 'page'>,
  row: number,
  y: number,
  rightMm: number,
  glassMm: number,
): Shape[] {
  const words =
    name === 'end'
      ? MARK_WORDS.end
      : `${MARK_WORDS[name]}: ${fromEndMm} mm (${inches(fromEndMm)} in)${name === 'cut' ? `, ${glassMm} mm of glass left` : ''}`;
  if (x + WORDS_ROOM <= rightMm) {
    const down = y + 9 + 4.6 * row;
    return [line([x, y - 8], [x, down + 3.4], 0.3), text([x + 1, down], words, 9, WORDS_ROOM)];
  }
  const up = y - 13 - 4.6 * row;
  return [
    line([x, up], [x, y + 8], 0.3),
    text([x - 1 - WORDS_ROOM, up - 0.5], words, 9, WORDS_ROOM, { align: 'right' }),
  ];
}

function layersOf(strip: StripGeometry, part: Part, x: (mm: number) => number, y: number): Shape[] {
  const rect = (fromMm: number, toMm: number, half: number, fill: number): Shape[] => {
    const from = Math.max(fromMm, part.fromMm);
    const to = Math.min(toMm, part.toMm);
    return to <= from
      ? []
      : [
          {
            kind: 'rect',
            at: [x(from), y - half],
            widthMm: to - from,
            heightMm: 2 * half,
            fill,
            strokeMm: 0.15,
          },
        ];
  };
  const { jacketMm, bufferMm } = strip;
  return [
    ...rect(0, bufferMm, HALF.glass, 0.75),
    ...rect(bufferMm, jacketMm > 0 ? jacketMm : part.toMm, HALF.buffer, 0.92),
    ...(jacketMm > 0 ? rect(jacketMm, part.toMm, HALF.jacket, 0.82) : []),
  ];
}

/** Where two strips are put on one another, each with the letter of its joint. */
function joints(part: Part, parts: readonly Part[], x: (mm: number) => number, y: number): Shape[] {
  const number = parts.indexOf(part);
  const joint = (letter: number, atMm: number): Shape[] => [
    line([x(atMm), y - 8], [x(atMm), y + 9], 0.3, true),
    text([x(atMm) - 4, y + 9.5], String.fromCharCode(65 + letter), 11, 8, { bold: true, align: 'middle' }),
  ];
  return [
    ...(number > 0 ? joint(number - 1, part.fromMm + OVERLAP) : []),
    ...(number < parts.length - 1 ? joint(number, part.toMm) : []),
  ];
}
