/** A part of a drawing, in its own units. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
/** A point is shown at `k` times its place plus `x`, `y`, in pixels of the screen. */
export interface Shift {
  readonly k: number;
  readonly x: number;
  readonly y: number;
}

/**
 * The part of a box that is seen: `box` fills the width of the screen's `widthPx` pixels unshifted. Nothing beyond its edges is
 * ever seen.
 */
export function boxSeen(box: Box, { k, x, y }: Shift, widthPx: number): Box {
  const perPx = widthPx > 0 ? box.width / widthPx : 0;
  const width = box.width / k;
  const height = box.height / k;
  const within = (at: number, from: number, room: number): number =>
    Math.min(Math.max(at, from), from + room);
  return {
    x: within(box.x - (x / k) * perPx, box.x, box.width - width),
    y: within(box.y - (y / k) * perPx, box.y, box.height - height),
    width,
    height,
  };
}

interface Gesture {
  readonly type: string;
  readonly ctrlKey?: boolean;
  readonly button?: number;
  readonly touches?: { readonly length: number };
}

/** Whether a gesture is for the drawing; what is not goes on to the page, as scrolling and tapping do. */
export function isHeld(gesture: Gesture, k: number): boolean {
  if (gesture.type === 'wheel') return gesture.ctrlKey === true || k > 1;
  if (gesture.type.startsWith('touch')) return k > 1 || (gesture.touches?.length ?? 0) > 1;
  return k > 1 && (gesture.button ?? 0) === 0 && gesture.ctrlKey !== true;
}
