import type { AttemptRow } from '@clear-mark/contract';
import { label, TREND, trendSvg } from './trend-drawing.ts';

/** A drawing as the address of an image. */
export const svgAddress = (svg: string): string => `data:image/svg+xml,${encodeURIComponent(svg)}`;

const HEIGHT = 190;
const TOP = 14;
const BOTTOM = 26;
const { width: WIDTH, left: LEFT, right: RIGHT, ink: INK, hair: HAIR, mark: MARK } = TREND;
/** So that good work is not drawn as if it were far apart. */
const LEAST_TOP_DB = 0.5;

export interface TrendPiece extends Pick<AttemptRow, 'losses' | 'pieceLabel'> {
  readonly dayWords: string;
}
interface Dot {
  readonly x: number;
  readonly y: number;
}

/**
 * The losses of pieces in their order as a drawing: a mark a reading, of another shape for each wavelength; the limit as a broken line where all have the same. Pieces the oldest first; limits in dB. Null where fewer than two
 * pieces have a loss.
 */
export function lossTrend(pieces: readonly TrendPiece[], limitsDb: readonly number[]): string | null {
  const measured = pieces.filter((p) => p.losses.some((l) => l.lossDb !== null));
  if (measured.length < 2) return null;
  const all = measured.flatMap((p) => p.losses.flatMap((l) => (l.lossDb === null ? [] : [l.lossDb])));
  const limits = new Set(limitsDb);
  const line = limits.size === 1 ? limitsDb[0]! : null;
  const top = Math.max(LEAST_TOP_DB, ...all, line ?? 0) * 1.08;
  const x = (i: number): number => LEFT + ((i + 0.5) * (WIDTH - LEFT - RIGHT)) / measured.length;
  const y = (db: number): number => HEIGHT - BOTTOM - (db / top) * (HEIGHT - TOP - BOTTOM);
  const wavelengths = [...new Set(measured.flatMap((p) => p.losses.map((l) => l.wavelengthNm)))].sort(
    (a, b) => a - b,
  );
  const dots = wavelengths.map((nm) => ({
    nm,
    at: measured.flatMap((p, i): Dot[] =>
      p.losses.flatMap((l) =>
        l.wavelengthNm === nm && l.lossDb !== null ? [{ x: x(i), y: y(l.lossDb) }] : [],
      ),
    ),
  }));
  const parts = [
    ...scaleOf(top, y),
    ...(line === null ? [] : limitLine(line, y)),
    ...dots.flatMap(({ nm, at }, i) => [...at.map((d) => dotOf(d, i)), ...keyOf(nm, i, dots.length)]),
    label(LEFT, HEIGHT - 8, measured[0]!.dayWords),
    label(WIDTH - RIGHT, HEIGHT - 8, measured.at(-1)!.dayWords, 'end'),
  ];
  return trendSvg(HEIGHT, parts);
}

function scaleOf(top: number, y: (db: number) => number): string[] {
  const step = top > 2 ? 1 : top > 1 ? 0.5 : 0.25;
  const lines: string[] = [];
  for (let db = 0; db <= top; db += step) {
    lines.push(
      `<line x1="${LEFT}" y1="${y(db).toFixed(1)}" x2="${WIDTH - RIGHT}" y2="${y(db).toFixed(1)}" stroke="${HAIR}" stroke-width="1"/>`,
      label(LEFT - 6, y(db) + 4, db.toFixed(2), 'end'),
    );
  }
  return [...lines, label(LEFT - 6, TOP - 2, 'dB', 'end')];
}

const limitLine = (db: number, y: (db: number) => number): string[] => [
  `<line x1="${LEFT}" y1="${y(db).toFixed(1)}" x2="${WIDTH - RIGHT}" y2="${y(db).toFixed(1)}" stroke="${INK}" stroke-width="1.5" stroke-dasharray="6 4"/>`,
  label(WIDTH - RIGHT + 8, y(db) + 4, `limit ${db.toFixed(2)}`),
];

/** A shape for each wavelength, told apart without a colour; a sheet has four at most. */
function dotOf({ x, y }: Dot, nth: number): string {
  const fill = nth % 2 === 0 ? MARK : '#ffffff';
  const drawn = `fill="${fill}" stroke="${MARK}" stroke-width="1.6"`;
  return nth < 2
    ? `<circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="4" ${drawn}/>`
    : `<rect x="${(x - 3.6).toFixed(1)}" y="${(y - 3.6).toFixed(1)}" width="7.2" height="7.2" ${drawn}/>`;
}

function keyOf(nm: number, nth: number, of: number): string[] {
  const y = HEIGHT - BOTTOM - 8 - 18 * (of - 1 - nth);
  return [dotOf({ x: WIDTH - RIGHT + 14, y }, nth), label(WIDTH - RIGHT + 24, y + 4, `${nm} nm`)];
}
