import type { FlatFace } from './flatten.ts';
import type { FoundLine, MeasuredLine } from './found-line.ts';
import { joinPieces, placeBy } from './join-pieces.ts';
import { halved, HALVED, inFull } from './halve.ts';
import { lineResponse } from './line-response.ts';
import { measureLine } from './measure-line.ts';
import { traceCrests } from './trace-lines.ts';

/** Reach of a piece's halves and of its surroundings, in pixels of the copy. */
const REACH = { arm: 8, beside: 6 };
const LEAST_CREST = 7;
const LEAST_LENGTH = 26;

/**
 * Lines of low contrast, straight or gently bent: crests of a response along 24 directions, joined where they go on, each
 * measured along the curve that it lies on. The search runs on a copy of half the size: what is summed along a line stays.
 * `spread` is the noise of a pixel. What is no line by that is left to whoever looks for spots.
 */
export function findLines(
  face: FlatFace,
  inside: Uint8Array,
  blurPx: number,
  spread: number,
): readonly MeasuredLine[] {
  const { side } = face;
  const small = halved(face.level, inside, side);
  const response = lineResponse(small.level, small.inside, small.side, REACH);
  const crests = traceCrests(response, LEAST_CREST).map((crest): FoundLine => {
    const pixels = crest.map((i) => inFull(i, small.side, side));
    const values = crest.map((i) => Math.abs(response.value[i]!));
    return {
      pixels,
      length: crest.length * HALVED,
      width: 3,
      height: values.reduce((a, b) => a + b, 0) / values.length,
      sign: Math.sign(response.value[crest[0]!]!),
    };
  });
  const lines: MeasuredLine[] = [];
  const take = (found: FoundLine): boolean => {
    const line = measureLine(face, found, blurPx, spread, LEAST_LENGTH);
    if (!line) return false;
    if (!lines.some((other) => isSameLine(other, line, side))) lines.push(line);
    return true;
  };
  for (const { line, pieces } of joinPieces(crests, side)) {
    // Pieces that make no line together may make one alone.
    if (!take(line) && pieces.length > 1) for (const piece of pieces) take(piece);
  }
  return lines;
}

/** Most of the one lies on the other. */
export function isSameLine(line: MeasuredLine, other: MeasuredLine, side: number): boolean {
  const [long, short] = line.length >= other.length ? [line, other] : [other, line];
  const near = 4 + (line.width + other.width) / 2;
  const some = short.pixels.filter((_, k) => k % 4 === 0);
  const on = some.filter((i) => {
    const { aside, beyond } = placeBy(long, side, i % side, Math.floor(i / side));
    return aside < near && beyond < 12;
  });
  return on.length > 0.6 * some.length;
}
