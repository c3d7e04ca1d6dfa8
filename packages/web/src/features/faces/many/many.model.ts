import {
  type Call,
  compareFaces,
  type FaceCriteria,
  isNearLimit,
  type MeasuredFace,
  type MeasuredRow,
  NO_REVIEW,
  pairPictures,
  passProbability,
  reviewFace,
  rowTable,
} from '@clear-mark/core';
import { breachWords, FACE_REFUSAL_WORDS, nearLimitWords } from '@clear-mark/words';
import type { ChartTable } from '../../../charts/chart-file.ts';
import { isGraded, isRow, type ShownFeature, shownFeatures } from '../inspect/face-view.model.ts';

/** The part of a picture that is shown small, and where it lies in it, in its pixels. */
export interface Thumb {
  readonly url: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
/** One of many pictures, from when it was dropped to when it is graded. */
export interface OneOfMany {
  readonly id: number;
  readonly name: string;
  readonly file: File;
  readonly state: 'waiting' | 'measuring' | 'done' | 'broken';
  /** Why it could not be read. */
  readonly problem: string | null;
  readonly found: MeasuredFace | MeasuredRow | null;
  readonly thumb: Thumb | null;
}

/** A picture as the table, the file and the paper say it. */
export interface PictureLine {
  readonly picture: OneOfMany;
  /** Null where it was not graded, or not yet. */
  readonly verdict: Call | null;
  readonly state: 'waiting' | 'graded' | 'near' | 'refused';
  /** Probability of a pass, 0 to 1; of a single face alone. */
  readonly chance: number | null;
  readonly umPerPx: number | null;
  readonly scratches: number | null;
  readonly defects: number | null;
  readonly fibers: number | null;
  /** What decided, what is to be done, or why there is no grade. */
  readonly words: readonly string[];
  readonly features: readonly ShownFeature[];
}

/** Lines in the order of the names, figures in them by their value; pairs before and after cleaning are told. */
export function linesOf(pictures: readonly OneOfMany[], table: FaceCriteria): PictureLine[] {
  const order = new Intl.Collator('en', { numeric: true });
  const sorted = [...pictures].sort((a, b) => order.compare(a.name, b.name) || a.id - b.id);
  const since = changesSince(sorted);
  return sorted.map((picture, i) => {
    const line = lineOf(picture, table);
    const change = since.get(i);
    return change === undefined ? line : { ...line, words: [...line.words, change] };
  });
}

function lineOf(picture: OneOfMany, table: FaceCriteria): PictureLine {
  const bare = {
    picture,
    verdict: null,
    chance: null,
    umPerPx: null,
    scratches: null,
    defects: null,
    fibers: null,
    features: [],
  };
  if (picture.problem !== null) return { ...bare, state: 'refused', words: [picture.problem] };
  const { found } = picture;
  if (found === null) return { ...bare, state: 'waiting', words: [] };
  if (isGraded(found)) return { ...bare, ...gradedLine(found, table) };
  if (isRow(found)) return { ...bare, ...rowLine(found, table) };
  const refusal = found.ok ? '' : FACE_REFUSAL_WORDS[found.reason];
  return { ...bare, state: 'refused', words: [refusal] };
}

function gradedLine(face: MeasuredFace & { ok: true }, table: FaceCriteria) {
  const reviewed = reviewFace(face.features, NO_REVIEW, table);
  const chance = passProbability(face.features, table);
  const isNear = isNearLimit(chance);
  const decided = reviewed.grade.zones.flatMap((z) =>
    z.breaches.map((b) => `Zone ${z.zone}: ${breachWords(b, face.features)}`),
  );
  const count = (kind: string): number => face.features.filter((f) => f.kind === kind).length;
  return {
    verdict: reviewed.grade.verdict,
    state: isNear ? ('near' as const) : ('graded' as const),
    chance,
    umPerPx: face.umPerPx,
    scratches: count('scratch'),
    defects: count('defect'),
    words: isNear ? [...decided, nearLimitWords(chance)] : decided,
    features: shownFeatures(face, NO_REVIEW, reviewed),
  };
}

function rowLine(row: MeasuredRow & { ok: true }, table: FaceCriteria) {
  const words = row.fibers.flatMap(({ fiber, face }) => {
    if (!face.ok) return [`Fiber ${fiber}: ${FACE_REFUSAL_WORDS[face.reason]}`];
    const { grade } = reviewFace(face.features, NO_REVIEW, rowTable(table));
    const decided = grade.zones.flatMap((z) => z.breaches.map((b) => breachWords(b, face.features)));
    return decided.length === 0 ? [] : [`Fiber ${fiber}: ${decided.join('; ')}`];
  });
  return { verdict: row.verdict, state: 'graded' as const, fibers: row.fibers.length, words };
}

/** What cleaning did, by the place of the picture that was taken after it. */
function changesSince(pictures: readonly OneOfMany[]): Map<number, string> {
  const words = new Map<number, string>();
  for (const { before, after } of pairPictures(pictures.map((p) => p.name))) {
    const from = pictures[before]!;
    const to = pictures[after]!.found;
    if (!isGraded(from.found) || !isGraded(to)) continue;
    const { went, stayed, came } = compareFaces(from.found.features, to.features);
    const counts = `${went.length} went, ${stayed.length} stayed, ${came.length} came`;
    words.set(after, `Cleaned since ${from.name}: ${counts}.`);
  }
  return words;
}

export interface Counts {
  readonly all: number;
  readonly done: number;
  readonly pass: number;
  readonly fail: number;
  readonly near: number;
  readonly refused: number;
}
export function countsOf(lines: readonly PictureLine[]): Counts {
  const count = (of: (line: PictureLine) => boolean): number => lines.filter(of).length;
  return {
    all: lines.length,
    done: count((l) => l.state !== 'waiting'),
    pass: count((l) => l.verdict === 'pass'),
    fail: count((l) => l.verdict === 'fail'),
    near: count((l) => l.state === 'near'),
    refused: count((l) => l.state === 'refused' || (l.state === 'graded' && l.verdict === null)),
  };
}

export type Shown = 'all' | 'fail' | 'near' | 'refused';
export function shownOf(lines: readonly PictureLine[], shown: Shown): readonly PictureLine[] {
  if (shown === 'all') return lines;
  if (shown === 'near') return lines.filter((l) => l.state === 'near');
  if (shown === 'fail') return lines.filter((l) => l.verdict === 'fail');
  return lines.filter((l) => l.state !== 'waiting' && l.verdict === null);
}

/** The lines as a table for a file; what was not graded has its reason and no figures. */
export function tableOf(lines: readonly PictureLine[], criteria: string): ChartTable {
  return {
    head: [
      'picture',
      'criteria',
      'verdict',
      'near the limit',
      'probability of a pass',
      'scale (µm/px)',
      'scratches',
      'defects',
      'fibers',
      'why',
    ],
    rows: lines
      .filter((l) => l.state !== 'waiting')
      .map((l) => [
        l.picture.name,
        criteria,
        l.verdict ?? 'not graded',
        l.state === 'near' ? 'yes' : 'no',
        l.chance === null ? null : Number(l.chance.toFixed(3)),
        l.umPerPx === null ? null : Number(l.umPerPx.toFixed(4)),
        l.scratches,
        l.defects,
        l.fibers,
        l.words.join(' '),
      ]),
  };
}
