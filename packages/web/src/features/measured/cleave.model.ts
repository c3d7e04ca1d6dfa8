import {
  angleOfLine,
  angleSdOfScreen,
  type CleavedEnd,
  type CleaveClass,
  type CleaveReading,
  type SideRefusal,
} from '@clear-mark/core';

export const CLASS_WORDS: Readonly<Record<CleaveClass, string>> = {
  mirror: 'mirror',
  mist: 'mist',
  hackle: 'hackle',
  lip: 'lip',
  chip: 'chip',
  broken: 'broken',
};
export const REFUSAL_WORDS: Readonly<Record<SideRefusal, string>> = {
  no_fiber: 'No fiber is seen from the side. Lay it level, with the light behind it.',
  crossing: 'Fibers cross. Show one end, or two that face each other.',
  face_on: 'The end is seen face on. It is measured from the side.',
  no_end: 'The fiber runs through the picture: its end is not seen.',
  out_of_frame: 'The end lies outside of the picture.',
  coated: 'The fiber wears its coating. Strip it, clean it, then cleave.',
  defocused: 'The picture is too blurred. Focus on the edges of the fiber.',
  washed_out: 'The picture is too bright or too dim to tell the fiber from the light.',
  no_face: 'The end face cannot be followed across the fiber.',
};

export type Line = CleavedEnd['face'];
/** A value read in a picture, as it goes into a sheet: decimal text in degrees. */
export interface ReadValue {
  readonly text: string;
  /** Expanded uncertainty, k = 2. */
  readonly expanded: string;
}
/** A line that was dragged by hand is not believed more closely than this, degrees, k = 2; house. */
const HAND = 0.3;
const MOST_EXPANDED = 9.99;

/**
 * What an end gives: its angle without its sign, believed less closely where the picture was taken from a screen. A broken end gives none, unless
 * somebody drags a line over it.
 */
export function valueOf(end: CleavedEnd, dragged: Line | null, ofScreen: boolean): ReadValue | null {
  const angle = dragged ? angleOfLine(dragged, end.axis, end.side) : end.angleDeg;
  if (angle === null) return null;
  const sd = ofScreen ? angleSdOfScreen(end.angleSd ?? 0) : (end.angleSd ?? 0);
  const expanded = dragged ? Math.max(HAND, 2 * sd) : 2 * sd;
  return { text: Math.abs(angle).toFixed(2), expanded: Math.min(MOST_EXPANDED, expanded).toFixed(2) };
}

/** Two readings that follow each other agree: the picture is held still. */
export function isStill(before: CleaveReading | null, now: CleaveReading): boolean {
  if (!before?.ok || !now.ok || before.ends.length !== now.ends.length) return false;
  return now.ends.every((end, i) => {
    const other = before.ends[i]!;
    if (end.side !== other.side || end.class !== other.class) return false;
    if (end.angleDeg === null || other.angleDeg === null) return end.angleDeg === other.angleDeg;
    const moved = Math.hypot(end.face[0].x - other.face[0].x, end.face[0].y - other.face[0].y);
    return (
      Math.abs(end.angleDeg - other.angleDeg) < Math.max(0.1, 2 * (end.angleSd ?? 0)) && moved < MOST_MOVED
    );
  });
}
/** Pixels between two looks. */
const MOST_MOVED = 6;

/** A face line with one of its ends elsewhere. */
export const draggedTo = (line: Line, which: 0 | 1, to: { x: number; y: number }): Line =>
  which === 0 ? [to, line[1]] : [line[0], to];
