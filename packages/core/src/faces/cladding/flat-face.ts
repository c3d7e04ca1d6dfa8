/** A square part of a picture round the fiber with the light, the core and the rim taken out: what is left is on the face. */
export interface FlatFace {
  /** Left and top of the square in the picture. */
  readonly left: number;
  readonly top: number;
  readonly side: number;
  /** Size of a pixel of the square, um. */
  readonly umPerPx: number;
  /** Level less what a clean face would show there; 0 outside. */
  readonly level: Float32Array;
  /** Distance from the fiber's centre in pixels. */
  readonly distance: Float32Array;
  /** 1 where features are looked for; 0 elsewhere. */
  readonly inside: Uint8Array;
  /** Levels that what was taken out may have left behind, as at the edge of a sharp core; none where it is not given. */
  readonly doubt?: Float32Array;
  /** Where each row begins to lie inside and where it has ceased to, two numbers a row. */
  readonly spans: Int16Array;
}

/** The spans of what lies inside; the same place twice where nothing of a row does. */
export function spansOf(inside: Uint8Array, side: number): Int16Array {
  const spans = new Int16Array(2 * side);
  for (let y = 0; y < side; y++) {
    let from = 0;
    let to = side;
    while (from < side && inside[y * side + from] === 0) from++;
    while (to > from && inside[y * side + to - 1] === 0) to--;
    spans[2 * y] = from;
    spans[2 * y + 1] = to;
  }
  return spans;
}
