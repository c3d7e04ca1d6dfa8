import type { CameraCard } from '@clear-mark/core';
import { z } from 'zod';

/** A card for the camera as a file, docs/formats/camera-card.md: mm from the card's upper left corner, y downwards. */
export const CardFile = z.object({
  method: z.string(),
  version: z.number().int(),
  width_mm: z.number().positive(),
  height_mm: z.number().positive(),
  marks: z.array(z.object({ id: z.number().int(), x_mm: z.number(), y_mm: z.number() })).min(4),
  axis: z.object({ x0_mm: z.number(), y0_mm: z.number(), x1_mm: z.number(), y1_mm: z.number() }),
  dots: z.array(z.object({ x_mm: z.number(), y_mm: z.number() })),
  cells: z.array(z.object({ x_mm: z.number(), y_mm: z.number(), dark: z.boolean() })),
  end_at_mm: z.number(),
});
export type CardFile = z.infer<typeof CardFile>;

/** A card as its file says it. */
export const cardToFile = (card: CameraCard, method: string, version: number): CardFile => ({
  method,
  version,
  width_mm: card.widthMm,
  height_mm: card.heightMm,
  marks: card.marks.map((m) => ({ id: m.id, x_mm: m.xMm, y_mm: m.yMm })),
  axis: {
    x0_mm: card.axis.from.xMm,
    y0_mm: card.axis.from.yMm,
    x1_mm: card.axis.to.xMm,
    y1_mm: card.axis.to.yMm,
  },
  dots: card.dots.map((d) => ({ x_mm: d.xMm, y_mm: d.yMm })),
  cells: card.cells.map((c) => ({ x_mm: c.xMm, y_mm: c.yMm, dark: c.isDark })),
  end_at_mm: card.tipMm,
});

/** A file's card as the core takes it. */
export const cardOfFile = (file: CardFile): CameraCard => ({
  widthMm: file.width_mm,
  heightMm: file.height_mm,
  marks: file.marks.map((m) => ({ id: m.id, xMm: m.x_mm, yMm: m.y_mm })),
  dots: file.dots.map((d) => ({ xMm: d.x_mm, yMm: d.y_mm })),
  cells: file.cells.map((c) => ({ xMm: c.x_mm, yMm: c.y_mm, isDark: c.dark })),
  axis: {
    from: { xMm: file.axis.x0_mm, yMm: file.axis.y0_mm },
    to: { xMm: file.axis.x1_mm, yMm: file.axis.y1_mm },
  },
  lengths: [],
  tipMm: file.end_at_mm,
});
