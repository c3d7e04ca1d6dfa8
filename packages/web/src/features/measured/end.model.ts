import {
  END_LAYERS,
  type EndLayer,
  type EndReading,
  type EndRefusal,
  type MeasuredEnd,
  mmAlong,
  type PicturePlace,
} from '@clear-mark/core';
import type { ReadValue } from './cleave.model.ts';

export const LAYER_WORDS: Readonly<Record<EndLayer, string>> = {
  jacket: 'jacket edge to the end of the glass',
  buffer: 'buffer edge to the end of the glass',
  glass: 'coating edge to the end of the glass',
};
export const END_REFUSAL_WORDS: Readonly<Record<EndRefusal, string>> = {
  few_marks:
    'Too few marks of the card are seen. Show the whole card, none of it covered but one mark at most.',
  mirrored: 'The picture is a mirror image. Turn that off in the camera.',
  other_card:
    'This is the card of another method, or of an older version. Print the one of this piece’s method.',
  bent: 'The card is bent. Lay it flat, or print it on stiff paper.',
  blurred: 'The picture is blurred. Hold still and let the camera focus.',
  print_scale: 'The card was not printed at its true size, or not cut along its lines. Print it at 100 %.',
  glare: 'Light is thrown back along the axis. Turn the card or move the lamp.',
  no_cable: 'No cable is seen along the axis of the card.',
  two_cables: 'Two cables are seen. Lay down one.',
  no_layers: 'The edges of jacket, buffer and glass are not told apart. Use a plainer light and come nearer.',
};

/** A place that was set by hand is not believed more closely than this, mm, k = 2; house. */
const HAND_MM = 0.6;
const MOST_EXPANDED = 9.99;

/** What an end gives: a length in mm with its expanded uncertainty. Null where its layer is not seen and nobody set it. */
export function lengthOf(end: MeasuredEnd, layer: EndLayer, dragged: number | null): ReadValue | null {
  const found = end[layer];
  const mm = dragged ?? found?.mm ?? null;
  if (mm === null || mm <= 0) return null;
  const own = found ? 2 * found.sdMm : HAND_MM;
  const expanded = dragged === null ? own : Math.max(HAND_MM, own);
  return { text: mm.toFixed(2), expanded: Math.min(MOST_EXPANDED, expanded).toFixed(2) };
}

/** Whether the end of the glass is seen, from which all lengths are counted. */
export const isTipSeen = (end: MeasuredEnd): boolean => end.seen.some((s) => s.of === 'tip');
/** What to do where a photograph gives no length of a layer, or null where it does. */
export function hintOf(end: MeasuredEnd, layer: EndLayer, dragged: number | null): string | null {
  if (!isTipSeen(end)) return 'The end of the glass is not seen: a plainer light, or nearer.';
  if (dragged !== null || end[layer] !== null) return null;
  return 'It is not certain where this edge lies. Move the ring to it along the cable, or photograph it in plainer light.';
}

/** How far from the tip an edge is dragged, along the cable. */
export const edgeDragged = (end: MeasuredEnd, to: PicturePlace): number => mmAlong(end.path, to);

/** Two readings that follow each other agree: the picture is held still. */
export function isEndStill(before: EndReading | null, now: EndReading): boolean {
  if (!before?.ok || !now.ok || END_LAYERS.every((layer) => now[layer] === null)) return false;
  return END_LAYERS.every((layer) => {
    const a = before[layer];
    const b = now[layer];
    return a === null || b === null ? a === b : Math.abs(a.mm - b.mm) < Math.max(0.15, 2 * b.sdMm);
  });
}
