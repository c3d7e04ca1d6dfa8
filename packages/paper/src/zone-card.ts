import type { FaceCriteria } from '@clear-mark/core';
import { sourceWords, zoneRuleWords } from '@clear-mark/words';
import { line, type Page, type Paper, PAPERS, type Point, type Shape } from './shapes.ts';

/** So many times as large as the face is everything on the card. */
export const ZONE_CARD_SCALE = 400;
const MM_PER_UM = ZONE_CARD_SCALE / 1000;
/** Sizes that are drawn beside the zones, um: what the tables of end faces ask for. */
export const ZONE_CARD_SIZES_UM = [1, 2, 3, 5, 10] as const;
const LEFT = 20;
const TOP = 24;

const text = (at: Point, said: string, sizePt: number, widthMm: number, bold = false): Shape => ({
  kind: 'text',
  at,
  text: said,
  sizePt,
  widthMm,
  bold,
});

const RULES = ['scratches', 'defects'] as const;
/**
 * The zones of a table at 400 times their size, with spots and strokes of the sizes that it asks for at the same scale, and
 * what each zone allows: to be laid beside the picture of a scope. Output: one page in mm, its rings at their true diameters.
 */
export function zoneCard(table: FaceCriteria, paper: Paper): Page {
  const { widthMm } = PAPERS[paper];
  const outerMm = Math.max(...table.zones.map((z) => z.toUm)) * MM_PER_UM;
  const centre: Point = [LEFT + outerMm / 2, TOP + 8 + outerMm / 2];
  const room = widthMm - 2 * LEFT;
  const shapes: Shape[] = [
    text([LEFT, 12], table.title, 15, room, true),
    text(
      [LEFT, 19],
      `version ${table.version}, ${ZONE_CARD_SCALE} times as large. ${sourceWords(table.source)}`,
      8.5,
      room,
    ),
    ...table.zones.map((zone): Shape => {
      const diameterMm = zone.toUm * MM_PER_UM;
      return { kind: 'circle', at: centre, diameterMm, strokeMm: zone.zone === 'A' ? 0.5 : 0.25 };
    }),
    ...table.zones.map((zone): Shape => {
      const midMm = ((zone.fromUm + zone.toUm) / 4) * MM_PER_UM;
      const up = zone.fromUm === 0 ? 0 : midMm;
      return {
        ...text([centre[0] - 5, centre[1] - up - 2.6], zone.zone, 13, 10, true),
        align: 'middle',
      } as Shape;
    }),
  ];
  const beside = LEFT + outerMm + 14;
  shapes.push(text([beside, TOP + 8], 'Spot    Scratch, wide', 9, 50));
  ZONE_CARD_SIZES_UM.forEach((um, i) => {
    const y = TOP + 20 + i * 13;
    shapes.push(
      { kind: 'circle', at: [beside + 4, y], diameterMm: um * MM_PER_UM, fill: 0 },
      line([beside + 16, y], [beside + 32, y], um * MM_PER_UM),
      text([beside + 36, y - 2.2], `${um} µm`, 11, 20),
    );
  });
  let y = centre[1] + outerMm / 2 + 12;
  for (const zone of table.zones) {
    shapes.push(
      line([LEFT, y - 2], [LEFT + room, y - 2], 0.15),
      text([LEFT, y], `Zone ${zone.zone}, ${zone.fromUm} to ${zone.toUm} µm`, 11, 60, true),
      ...RULES.map((kind, i): Shape =>
        text(
          [LEFT, y + 6 + i * 5.5],
          `${kind === 'scratches' ? 'Scratches' : 'Defects'}: ${zoneRuleWords(zone[kind])}`,
          10,
          room,
        ),
      ),
    );
    y += 20;
  }
  shapes.push(
    text(
      [LEFT, y + 1],
      'A feature counts in every zone that any part of it touches. Never look into a fiber that may carry light.',
      9,
      room,
    ),
  );
  return { shapes };
}
