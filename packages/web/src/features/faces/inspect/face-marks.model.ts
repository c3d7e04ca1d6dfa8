/** What a mark is drawn by. */
export interface Marked {
  readonly kind: 'scratch' | 'defect';
  readonly sizeUm: number;
  readonly xUm: number;
  readonly yUm: number;
  readonly outlineUm: readonly (readonly [number, number])[];
}

/** How a face lies in its picture: micrometres to pixels, a place from the face's centre, and the width of a thin line. */
export interface MarkScale {
  readonly px: (um: number) => number;
  readonly at: (xUm: number, yUm: number) => [number, number];
  readonly stroke: number;
}

/** The scale of a face in its picture. */
export function scaleOf(
  face: { readonly umPerPx: number; readonly centrePx: readonly [number, number] },
  stroke: number,
): MarkScale {
  const px = (um: number): number => um / face.umPerPx;
  return { px, at: (xUm, yUm) => [face.centrePx[0] + px(xUm), face.centrePx[1] + px(yUm)], stroke };
}

const CORNERS = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
] as const;

/** Four corners round a defect. */
function corners(f: Marked, { px, at, stroke }: MarkScale): string {
  const [x, y] = at(f.xUm, f.yUm);
  const r = px(f.sizeUm / 2) + 4 * stroke;
  const c = Math.max(4 * stroke, r * 0.5);
  return CORNERS.map(([sx, sy]) => {
    const cx = x + sx * r;
    const cy = y + sy * r;
    return `M${cx - sx * c} ${cy}H${cx}V${cy - sy * c}`;
  }).join('');
}

/** A pair of rails along a scratch. */
function rails(f: Marked, { px, at, stroke }: MarkScale): string {
  const points = f.outlineUm.map(([x, y]) => at(x, y));
  const off = px(f.sizeUm / 2) + 3.5 * stroke;
  const beside = (side: number): string =>
    points
      .map(([x, y], i) => {
        const a = points[Math.max(0, i - 1)]!;
        const b = points[Math.min(points.length - 1, i + 1)]!;
        const d = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
        const nx = (-(b[1] - a[1]) / d) * off * side;
        const ny = ((b[0] - a[0]) / d) * off * side;
        return `${i === 0 ? 'M' : 'L'}${(x + nx).toFixed(1)} ${(y + ny).toFixed(1)}`;
      })
      .join('');
  return beside(1) + beside(-1);
}

/** The mark of a feature as a path: rails along a scratch, corners round everything else. */
export const pathOf = (f: Marked, scale: MarkScale): string =>
  f.kind === 'scratch' && f.outlineUm.length > 1 ? rails(f, scale) : corners(f, scale);

/** Where its number stands: up and to the right, clear of the mark. */
export function labelAt(f: Marked, { px, at, stroke }: MarkScale): [number, number] {
  const [x, y] = at(f.xUm, f.yUm);
  const off = px((f.kind === 'defect' ? f.sizeUm : 0) / 2) + 9 * stroke;
  return [x + off, y - off];
}
