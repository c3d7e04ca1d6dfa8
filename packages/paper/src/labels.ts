import type { Page, Paper, Shape } from './shapes.ts';

/** Sheets of labels as they are usual, mm: so many across and down, where the first begins, its size, and how far the next is. */
export interface LabelGrid {
  readonly paper: Paper;
  readonly across: number;
  readonly down: number;
  readonly leftMm: number;
  readonly topMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly pitchXMm: number;
  readonly pitchYMm: number;
}
export const LABEL_GRIDS = {
  a4_3_by_8: {
    paper: 'A4',
    across: 3,
    down: 8,
    leftMm: 0,
    topMm: 0.5,
    widthMm: 70,
    heightMm: 37,
    pitchXMm: 70,
    pitchYMm: 37,
  },
  a4_2_by_7: {
    paper: 'A4',
    across: 2,
    down: 7,
    leftMm: 4.65,
    topMm: 15.15,
    widthMm: 99.1,
    heightMm: 38.1,
    pitchXMm: 101.6,
    pitchYMm: 38.1,
  },
  letter_3_by_10: {
    paper: 'Letter',
    across: 3,
    down: 10,
    leftMm: 4.76,
    topMm: 12.7,
    widthMm: 66.68,
    heightMm: 25.4,
    pitchXMm: 69.85,
    pitchYMm: 25.4,
  },
} as const satisfies Record<string, LabelGrid>;
export type LabelGridName = keyof typeof LABEL_GRIDS;

export interface Label {
  readonly name: string;
  readonly below: string;
  /** What a scanner reads. */
  readonly code: string;
}

const INSET = 3;

/**
 * Labels on a sheet of labels, each with a code, row by row. Input: the labels, the grid, how many of the first sheet are used
 * up already (0 up to one less than it has). Output: pages in mm. A name that is too long for its label goes on a second line.
 */
export function labelPages(labels: readonly Label[], grid: LabelGrid, used = 0): readonly Page[] {
  const aPage = grid.across * grid.down;
  const first = Math.max(0, Math.min(aPage - 1, used));
  const pages: Shape[][] = [];
  labels.forEach((label, i) => {
    const place = first + i;
    const onPage = place % aPage;
    const shapes = (pages[Math.floor(place / aPage)] ??= []);
    shapes.push(...labelAt(label, grid, onPage % grid.across, Math.floor(onPage / grid.across)));
  });
  return pages.map((shapes) => ({ shapes }));
}

function labelAt({ name, below, code }: Label, grid: LabelGrid, column: number, row: number): Shape[] {
  const left = grid.leftMm + column * grid.pitchXMm;
  const top = grid.topMm + row * grid.pitchYMm;
  // Two points a module for the longest code, that of a piece: a code is drawn in whole points.
  const side = Math.min(24, grid.heightMm - 2 * INSET);
  const text = left + 2 * INSET + side;
  const room = grid.widthMm - 3 * INSET - side;
  // A letter is about half as wide as it is high: so many go on a line.
  const sizePt = name.length > room / 2.1 ? 8.5 : 11;
  return [
    { kind: 'code', at: [left + INSET, top + (grid.heightMm - side) / 2], sideMm: side, text: code },
    { kind: 'text', at: [text, top + INSET + 1], text: name, sizePt, widthMm: room, bold: true },
    { kind: 'text', at: [text, top + grid.heightMm - INSET - 4.5], text: below, sizePt: 8, widthMm: room },
  ];
}

/** What the codes of labels and cards say: a kind, and which one. Nothing but letters, digits and `:/-.`, so that any scanner types it. */
export const CODE_KINDS = ['method', 'thing', 'trainee', 'piece'] as const;
export type CodeKind = (typeof CODE_KINDS)[number];
export interface ReadCode {
  readonly kind: CodeKind;
  readonly parts: readonly string[];
}
export const codeFor = (kind: CodeKind, ...parts: readonly string[]): string =>
  ['clear-mark', kind, ...parts].join(':');

/** What a scanned text names; null where it is no code of ours. */
export function readCode(text: string): ReadCode | null {
  const [ours, kind, ...parts] = text.trim().split(':');
  const known = CODE_KINDS.find((k) => k === kind);
  return ours === 'clear-mark' && known && parts.length > 0 ? { kind: known, parts } : null;
}
