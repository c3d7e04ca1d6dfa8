import type { FaceSettings } from '../settings.ts';
import type { FoundLine } from './found-line.ts';

interface Ends {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly ux: number;
  readonly uy: number;
}

function endsOf(pixels: readonly number[], side: number): Ends {
  const first = pixels[0]!;
  const last = pixels[pixels.length - 1]!;
  const x1 = first % side;
  const y1 = Math.floor(first / side);
  const x2 = last % side;
  const y2 = Math.floor(last / side);
  const d = Math.hypot(x2 - x1, y2 - y1) || 1;
  return { x1, y1, x2, y2, ux: (x2 - x1) / d, uy: (y2 - y1) / d };
}

/**
 * How a point lies to a line: its distance aside, from the line's own pixels where it lies beside them, from its
 * continuation where it lies before or behind; and how far before or behind, 0 beside it.
 */
export function placeBy(
  line: FoundLine,
  side: number,
  x: number,
  y: number,
): { aside: number; beyond: number } {
  const e = endsOf(line.pixels, side);
  const s = (x - e.x1) * e.ux + (y - e.y1) * e.uy;
  const length = Math.hypot(e.x2 - e.x1, e.y2 - e.y1);
  if (s >= 0 && s <= length) {
    let aside = Infinity;
    for (const i of line.pixels)
      aside = Math.min(aside, Math.hypot((i % side) - x, Math.floor(i / side) - y));
    return { aside, beyond: 0 };
  }
  // The continuation goes by the last stretch, since lines bend.
  const tail = Math.min(line.pixels.length - 1, 14);
  const end =
    s < 0
      ? endsOf([...line.pixels.slice(0, tail + 1)].reverse(), side)
      : endsOf(line.pixels.slice(line.pixels.length - 1 - tail), side);
  const along = (x - end.x2) * end.ux + (y - end.y2) * end.uy;
  const aside = Math.abs((x - end.x2) * end.uy - (y - end.y2) * end.ux);
  return { aside: aside - 0.06 * Math.max(0, along), beyond: Math.max(0, along) };
}

/** A line and the pieces that it was joined of. */
export interface JoinedLine {
  readonly line: FoundLine;
  readonly pieces: readonly FoundLine[];
}

/** Lines with the pieces that continue them taken in; the longest of them gives width and height. */
export function joinPieces(
  lines: readonly FoundLine[],
  side: number,
  settings: FaceSettings,
): readonly JoinedLine[] {
  const rest = [...lines].sort((a, b) => b.length - a.length);
  const joined: JoinedLine[] = [];
  while (rest.length > 0) {
    let line = rest.shift()!;
    const pieces = [line];
    for (let i = 0; i < rest.length; i++) {
      if (!continues(line, rest[i]!, side, settings)) continue;
      pieces.push(rest[i]!);
      line = withPiece(line, rest[i]!, side);
      rest.splice(i, 1);
      i = -1;
    }
    joined.push({ line, pieces });
  }
  return joined;
}

function continues(line: FoundLine, piece: FoundLine, side: number, settings: FaceSettings): boolean {
  if (line.sign !== piece.sign) return false;
  const a = endsOf(line.pixels, side);
  const b = endsOf(piece.pixels, side);
  const turned = (Math.acos(Math.min(1, Math.abs(a.ux * b.ux + a.uy * b.uy))) * 180) / Math.PI;
  const short = piece.length < 30;
  if (turned > (short ? 2 : 1) * settings.pieces.turnedDeg) return false;
  const middle = piece.pixels[Math.floor(piece.pixels.length / 2)]!;
  const { aside, beyond } = placeBy(line, side, middle % side, Math.floor(middle / side));
  return (
    aside < settings.pieces.asidePx + line.width / 2 && beyond - piece.length / 2 < settings.pieces.gapPx
  );
}

function withPiece(line: FoundLine, piece: FoundLine, side: number): FoundLine {
  const e = endsOf(line.pixels, side);
  const at = (i: number): number => ((i % side) - e.x1) * e.ux + (Math.floor(i / side) - e.y1) * e.uy;
  const pixels = [...line.pixels, ...piece.pixels].sort((p, q) => at(p) - at(q));
  const all = endsOf(pixels, side);
  return { ...line, pixels, length: Math.hypot(all.x2 - all.x1, all.y2 - all.y1) };
}
