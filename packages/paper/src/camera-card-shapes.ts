import {
  type CameraCard,
  cardOfMethod,
  CELL_SIDE_MM,
  DOT_RADIUS_MM,
  MARK,
  MARK_SECTORS,
  type MethodSheet,
} from '@clear-mark/core';
import { line, type Page, type Paper, PAPERS, type Point, type Shape } from './shapes.ts';

/** Sectors are drawn as polygons of so many steps. */
const SECTOR_STEPS = 6;
/** How far beside the axis the ticks of the lengths stand, mm. */
const TICK = { from: 11.3, to: 12.8 };

/** What a card for the camera shows, with its upper left corner at a place of the paper. */
export function cameraCardShapes(card: CameraCard, sheet: MethodSheet, [left, top]: Point = [0, 0]): Shape[] {
  const at = (p: { readonly xMm: number; readonly yMm: number }): Point => [left + p.xMm, top + p.yMm];
  const { axis, lengths, tipMm } = card;
  return [
    ...card.marks.flatMap((m) => markShapes(m.id, at(m))),
    ...card.dots.map((d): Shape => ({ kind: 'circle', at: at(d), diameterMm: 2 * DOT_RADIUS_MM, fill: 0 })),
    ...card.cells
      .filter((c) => c.isDark)
      .map((c): Shape => ({
        kind: 'rect',
        at: [left + c.xMm - CELL_SIDE_MM / 2, top + c.yMm - CELL_SIDE_MM / 2],
        widthMm: CELL_SIDE_MM,
        heightMm: CELL_SIDE_MM,
        fill: 0,
      })),
    ...lengths.flatMap(({ fromEndMm }) =>
      [-1, 1].map((side) => {
        const x = left + tipMm + fromEndMm;
        const y = top + axis.from.yMm;
        return line([x, y + side * TICK.from], [x, y + side * TICK.to], 0.25);
      }),
    ),
    ...lengths.map(({ name, fromEndMm }): Shape => ({
      kind: 'text',
      at: [left + tipMm + fromEndMm - 20, top + axis.from.yMm + 15.2],
      text: name === 'end' ? 'end of the glass' : `${name} ${fromEndMm} mm`,
      sizePt: 6,
      align: 'middle',
      widthMm: 40,
    })),
    {
      kind: 'text',
      at: [left + 48, top + 4.4],
      text: `version ${sheet.version}`,
      sizePt: 7,
      align: 'middle',
      widthMm: 24,
    },
    { kind: 'text', at: [left + 24, top + 17.6], text: sheet.title, sizePt: 7, widthMm: 90, bold: true },
  ];
}

function markShapes(id: number, [x, y]: Point): Shape[] {
  const word = MARK_SECTORS[id]!;
  const each = (2 * Math.PI) / word.length;
  const [near, far] = MARK.sectors;
  const sectors: Shape[] = [];
  [...word].forEach((bit, i) => {
    if (bit !== '1') return;
    const arc = (radius: number, k: number): Point => {
      const angle = each * (i + k / SECTOR_STEPS);
      return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
    };
    const steps = Array.from({ length: SECTOR_STEPS + 1 }, (_, k) => k);
    sectors.push({
      kind: 'polygon',
      points: [...steps.map((k) => arc(far, k)), ...steps.reverse().map((k) => arc(near, k))],
      fill: 0,
    });
  });
  return [
    { kind: 'circle', at: [x, y], diameterMm: 2 * MARK.ring[1], fill: 0 },
    { kind: 'circle', at: [x, y], diameterMm: 2 * MARK.ring[0], fill: 1 },
    { kind: 'circle', at: [x, y], diameterMm: 2 * MARK.dot, fill: 0 },
    ...sectors,
  ];
}

const GAP_MM = 6;
const TOP_MM = 14;
/** Cards for the camera on pages, each with the lines that it is cut along. Input: the paper, how many (1 to 8). */
export function cameraCardPages(sheet: MethodSheet, paper: Paper, copies: number): Page[] {
  const card = cardOfMethod(sheet);
  const { widthMm, heightMm } = PAPERS[paper];
  const aPage = Math.floor((heightMm - 2 * TOP_MM + GAP_MM) / (card.heightMm + GAP_MM));
  const pages: Shape[][] = [];
  for (let i = 0; i < Math.max(1, Math.min(8, copies)); i++) {
    const left = (widthMm - card.widthMm) / 2;
    const top = TOP_MM + (i % aPage) * (card.heightMm + GAP_MM);
    (pages[Math.floor(i / aPage)] ??= []).push(
      ...cameraCardShapes(card, sheet, [left, top]),
      ...cutLines(left, top, card.widthMm, card.heightMm),
    );
  }
  return pages.map((shapes) => ({ shapes }));
}

/** Outside of the card, so that nothing of them is left on it. */
function cutLines(left: number, top: number, widthMm: number, heightMm: number): Shape[] {
  const right = left + widthMm;
  const bottom = top + heightMm;
  const long = 5;
  return [top, bottom].flatMap((y) => [
    line([left - long, y], [left, y], 0.15),
    line([right, y], [right + long, y], 0.15),
    ...[left, right].map((x) =>
      y === top ? line([x, y - long / 2], [x, y], 0.15) : line([x, y], [x, y + long / 2], 0.15),
    ),
  ]);
}
