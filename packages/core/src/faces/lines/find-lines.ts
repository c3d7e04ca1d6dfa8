import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import type { FoundLine, MeasuredLine } from './found-line.ts';
import { joinPieces, placeBy } from './join-pieces.ts';
import { halved, HALVED, fullResolutionIndex } from '../pixels/halve.ts';
import { lineResponse } from './line-response.ts';
import { measureLine } from './measure-line.ts';
import { traceCrests } from './trace-lines.ts';

/** Reach of a piece's halves and of its surroundings, in pixels of the copy. */
const REACH = { arm: 8, beside: 6 };

/**
 * Lines of low contrast, straight or gently bent: crests of a response along 18 directions, joined where they go on, each
 * measured along the curve that it lies on. The search runs on a copy of half the size: what is summed along a line stays.
 * `spread` is the noise of a pixel. What is no line by that is left to whoever looks for spots.
 */
export function findLines(
  face: FlatFace,
  inside: Uint8Array,
  blurPx: number,
  spread: number,
  settings: FaceSettings,
): readonly MeasuredLine[] {
  const { side } = face;
  const small = halved(face.level, inside, side);
  const response = lineResponse(small.level, small.inside, small.side, REACH, settings);
  const crests = traceCrests(response, settings.lines.leastCrestPx, settings).map((crest): FoundLine => {
    const pixels = crest.map((i) => fullResolutionIndex(i, small.side, side));
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
    const line = measureLine(face, found, blurPx, spread, settings.lines.leastLengthPx, settings);
    if (!line || isConcentric(face, line)) return false;
    if (!lines.some((other) => isSameLine(other, line, side, settings))) lines.push(line);
    // Where two lines meet a crest may go from one to the other: what lies off the first may be the second.
    const rest = found.pixels.filter((i) => !liesOn(line, i, side));
    if (rest.length < found.pixels.length && rest.length > settings.lines.leastCrestPx)
      take({ ...found, pixels: rest });
    return true;
  };
  // The strongest first: a weak one beside it is its shadow or a copy.
  const joined = [...joinPieces(crests, side, settings)].sort((a, b) => b.line.height - a.line.height);
  for (const { line, pieces } of joined) {
    // Pieces that make no line together may make one alone, and one that bends far may make two.
    if (!take(line)) for (const piece of pieces.length > 1 ? pieces : halvesOf(line, settings)) take(piece);
  }
  return lines;
}

function halvesOf(line: FoundLine, settings: FaceSettings): readonly FoundLine[] {
  if (line.length < 4 * settings.lines.leastLengthPx) return [];
  const half = line.pixels.length >> 1;
  return [line.pixels.slice(0, half), line.pixels.slice(half)].map((pixels) => ({ ...line, pixels }));
}

/**
 * A line that keeps its distance from the centre, where a straight one would come nearer: what is left of the core's edge
 * or of the rim.
 */
function isConcentric({ distance }: FlatFace, { pixels, length }: MeasuredLine): boolean {
  let least = Infinity;
  let most = 0;
  for (const i of pixels) [least, most] = [Math.min(least, distance[i]!), Math.max(most, distance[i]!)];
  return most - least < 0.45 * (Math.hypot(least, length / 2) - least);
}

/** Much of the one lies on the other, and it is no line of the other kind in its own right. */
export function isSameLine(
  line: MeasuredLine,
  other: MeasuredLine,
  side: number,
  settings: FaceSettings,
): boolean {
  const [long, short] = line.length >= other.length ? [line, other] : [other, line];
  if (line.sign !== other.sign && other.height > settings.lines.shadowHeight * line.height) return false;
  const some = short.pixels.filter((_, k) => k % 4 === 0);
  return (
    some.filter((i) => liesOn(long, i, side, short.width)).length >
    settings.lines.sameWhenCovered * some.length
  );
}

function liesOn(line: MeasuredLine, i: number, side: number, width = line.width): boolean {
  const { aside, beyond } = placeBy(line, side, i % side, Math.floor(i / side));
  return aside < 4 + (line.width + width) / 2 && beyond < 12;
}
