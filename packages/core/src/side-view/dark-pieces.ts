import type { Strip } from './find-strips.ts';

/** Dark places of a small picture that hang together. */
export interface DarkPiece {
  readonly size: number;
  readonly rows: { readonly from: number; readonly to: number };
  /** Columns between which it lies in each of its rows, from the first. */
  readonly spans: readonly { readonly from: number; readonly to: number }[];
}

/** The pieces of a mask that hang together, by their sides; those smaller than `LEAST` are left out. */
export function piecesOf(mask: Uint8Array, width: number, height: number): DarkPiece[] {
  const left = mask.slice();
  const found: DarkPiece[] = [];
  const stack: number[] = [];
  for (let start = 0; start < left.length; start++) {
    if (!left[start]) continue;
    left[start] = 0;
    stack.push(start);
    const spans = new Map<number, { from: number; to: number }>();
    let size = 0;
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      size += 1;
      const x = at % width;
      const y = (at - x) / width;
      const span = spans.get(y);
      if (!span) spans.set(y, { from: x, to: x });
      else {
        span.from = Math.min(span.from, x);
        span.to = Math.max(span.to, x);
      }
      const near = [
        x > 0 ? at - 1 : -1,
        x < width - 1 ? at + 1 : -1,
        y > 0 ? at - width : -1,
        y < height - 1 ? at + width : -1,
      ];
      for (const next of near) {
        if (next < 0 || !left[next]) continue;
        left[next] = 0;
        stack.push(next);
      }
    }
    if (size < LEAST) continue;
    const rows = [...spans.keys()].sort((a, b) => a - b);
    found.push({
      size,
      rows: { from: rows[0]!, to: rows.at(-1)! },
      spans: rows.map((y) => spans.get(y)!),
    });
  }
  return found;
}
/** Fewer pixels are noise. */
const LEAST = 4;

/** An electrode ends so far from the fiber, in widths of it, and narrows over its last part to so much of what it is there (house). */
const ELECTRODE = { away: 0.2, part: 0.4, narrows: 0.6 };

/** Whether a piece is the point of an electrode: it comes from above or from below, narrows towards the fibers and ends before them. */
export function isElectrode({ rows, spans }: DarkPiece, strips: readonly Strip[]): boolean {
  const widths = spans.map((s) => s.to - s.from + 1);
  const middle = (rows.from + rows.to) / 2;
  return strips.every((strip) => {
    const axis = (y: number, k: number): number => {
      const x = (spans[k]!.from + spans[k]!.to) / 2;
      return y - strip.middle - strip.slope * x;
    };
    const isAbove = axis(middle, Math.floor(spans.length / 2)) < 0;
    const tip = isAbove ? spans.length - 1 : 0;
    const away = Math.abs(axis(rows.from + tip, tip)) / strip.height - 0.5;
    const towards = isAbove ? widths : [...widths].reverse();
    const part = towards.slice(Math.floor(towards.length * (1 - ELECTRODE.part)));
    return away > ELECTRODE.away && part.at(-1)! < ELECTRODE.narrows * part[0]! && towards[0]! >= part[0]!;
  });
}
