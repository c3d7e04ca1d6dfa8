import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import type { FaceFeature } from './grade-face.ts';

/** What became of the features of a face between two pictures of it. Places in the two lists. */
export interface FaceChange {
  readonly stayed: readonly { readonly before: number; readonly after: number }[];
  readonly went: readonly number[];
  readonly came: readonly number[];
}

/**
 * Compares the features of a face before and after cleaning, both in um from the fiber's centre: what is found again within
 * half of its size and 2.5 um is the same mark, nearest pairs first. The pictures may be turned against each other by a
 * part of a degree, no more: the connector is not to be turned in its adapter between them.
 */
export function compareFaces(
  before: readonly FaceFeature[],
  after: readonly FaceFeature[],
  settings: FaceSettings = FACE_SETTINGS,
): FaceChange {
  const pairs = before
    .flatMap((a, i) =>
      after.map((b, j) => ({
        before: i,
        after: j,
        apart: Math.hypot(a.xUm - b.xUm, a.yUm - b.yUm),
        reach: settings.compare.apartUm + extentOf(a) / 2,
        same: a.kind === b.kind,
      })),
    )
    .filter((p) => p.same && p.apart <= p.reach)
    .sort((p, q) => p.apart - q.apart);
  const used = new Set<number>();
  const matched = new Set<number>();
  const stayed: { before: number; after: number }[] = [];
  for (const pair of pairs) {
    if (used.has(pair.before) || matched.has(pair.after)) continue;
    used.add(pair.before);
    matched.add(pair.after);
    stayed.push({ before: pair.before, after: pair.after });
  }
  stayed.sort((p, q) => p.before - q.before);
  return {
    stayed,
    went: before.flatMap((_, i) => (used.has(i) ? [] : [i])),
    came: after.flatMap((_, j) => (matched.has(j) ? [] : [j])),
  };
}

const extentOf = ({ sizeUm, lengthUm }: FaceFeature): number => Math.max(sizeUm, (lengthUm ?? 0) / 2);
