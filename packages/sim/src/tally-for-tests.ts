import { type FaceCriteria, gradeFace, type MeasuredFace, type MeasuredFeature } from '@clear-mark/core';
import type { TrueFeature } from './face-features.ts';

/** A face whose truth is known, whichever renderer drew it. */
export interface KnownFace {
  readonly umPerPx: number;
  readonly centre: readonly [number, number];
  readonly noise: number;
  readonly features: readonly TrueFeature[];
}
export interface Judged {
  readonly truth: KnownFace;
  readonly found: MeasuredFace;
}
export interface KindTally {
  readonly recall: number;
  readonly precision: number;
  readonly medianError: number;
  /** Share of the sizes whose uncertainty holds the true one. */
  readonly covered: number;
  readonly n: number;
}
export interface Tally {
  readonly defect: KindTally;
  readonly scratch: KindTally;
  readonly refused: number;
  /** 95th percentiles of the scale's error and of the centre's, the latter in um. */
  readonly scale95: number;
  readonly centre95Um: number;
  readonly agreement: number;
  readonly bad: number;
  readonly falsePasses: number;
  readonly good: number;
  readonly falseFails: number;
}

const CLADDING_EDGE_UM = 62.4;

/** What has to be found: contrast of four times the noise, a pixel and a half wide, on the glass. */
const counts = (f: TrueFeature, { noise, umPerPx }: KnownFace): boolean =>
  Math.abs(f.contrast) >= 4 * noise &&
  (f.kind === 'scratch' ? f.sizeUm : (f.strokeUm ?? f.sizeUm)) >= 1.5 * umPerPx &&
  f.nearestUm < CLADDING_EDGE_UM;

const distanceTo = (f: TrueFeature, x: number, y: number): number =>
  Math.min(...f.points.map(([px, py]) => Math.hypot(px - x, py - y)));

/** How far a detection lies off a feature that it may match: a defect within its radius and 1 um, a scratch 3 um. */
function offBy(f: TrueFeature, d: MeasuredFeature): number | null {
  if (d.kind !== f.kind) return null;
  if (f.kind === 'scratch') {
    const off = distanceTo(f, d.xUm, d.yUm);
    return off < 3 ? off : null;
  }
  const off = Math.hypot(d.xUm - f.xUm, d.yUm - f.yUm);
  return off <= f.sizeUm / 2 + 1 ? off : null;
}

/** Each detection of at most one feature, the nearest pairs first, so that where two cross each gets its own. */
function pairsOf(
  features: readonly TrueFeature[],
  found: readonly MeasuredFeature[],
): Map<TrueFeature, number> {
  const near = features.flatMap((f) =>
    found.flatMap((d, at) => {
      const off = offBy(f, d);
      return off === null ? [] : [{ f, at, off: off + Math.abs(d.sizeUm - f.sizeUm) }];
    }),
  );
  near.sort((a, b) => a.off - b.off);
  const pairs = new Map<TrueFeature, number>();
  const used = new Set<number>();
  for (const { f, at } of near) {
    if (pairs.has(f) || used.has(at)) continue;
    pairs.set(f, at);
    used.add(at);
  }
  return pairs;
}

/** Counts what was found, missed and made up over measured faces, and how the grades agree. */
export function tallyOf(faces: readonly Judged[], table: FaceCriteria): Tally {
  const kinds = { defect: new Counter(), scratch: new Counter() };
  const [scales, centres]: [number[], number[]] = [[], []];
  let refused = 0;
  let agreed = 0;
  let bad = 0;
  let falsePasses = 0;
  let good = 0;
  let falseFails = 0;
  for (const { truth, found } of faces) {
    if (!found.ok) {
      refused += 1;
      continue;
    }
    scales.push(Math.abs(found.umPerPx / truth.umPerPx - 1));
    const [x, y] = found.centrePx;
    centres.push(Math.hypot(x - truth.centre[0], y - truth.centre[1]) * truth.umPerPx);
    const pairs = pairsOf(truth.features, found.features);
    const used = new Set(pairs.values());
    for (const feature of truth.features) {
      const at = pairs.get(feature);
      if (counts(feature, truth)) {
        kinds[feature.kind].add(at === undefined ? null : found.features[at]!, feature);
      }
    }
    found.features.forEach((d, i) => {
      // A detection of a true feature that is too faint to be asked for is not false.
      const faint = truth.features.some(
        (f) =>
          !counts(f, truth) && distanceTo(f, d.xUm, d.yUm) < 3 + (f.kind === 'defect' ? f.sizeUm / 2 : 0),
      );
      if (!used.has(i) && !faint) kinds[d.kind].wrong += 1;
    });
    const want = gradeFace(truth.features, table).verdict;
    if (want === found.grade.verdict) agreed += 1;
    if (want === 'fail') bad += 1;
    if (want === 'fail' && found.grade.verdict === 'pass') falsePasses += 1;
    if (want === 'pass') good += 1;
    if (want === 'pass' && found.grade.verdict === 'fail') falseFails += 1;
  }
  return {
    defect: kinds.defect.tally(),
    scratch: kinds.scratch.tally(),
    refused,
    bad,
    falsePasses,
    good,
    falseFails,
    scale95: at(scales, 0.95),
    centre95Um: at(centres, 0.95),
    agreement: agreed / Math.max(1, faces.length - refused),
  };
}

class Counter {
  wrong = 0;
  private found = 0;
  private missed = 0;
  private readonly errors: number[] = [];
  private covered = 0;
  add(detection: MeasuredFeature | null, truth: TrueFeature): void {
    if (!detection) {
      this.missed += 1;
      return;
    }
    this.found += 1;
    this.errors.push(Math.abs(detection.sizeUm / truth.sizeUm - 1));
    if (Math.abs(detection.sizeUm - truth.sizeUm) <= detection.uncertaintyUm) this.covered += 1;
  }
  tally(): KindTally {
    return {
      recall: this.found / Math.max(1, this.found + this.missed),
      precision: this.found / Math.max(1, this.found + this.wrong),
      medianError: at(this.errors, 0.5),
      covered: this.covered / Math.max(1, this.found),
      n: this.found + this.missed,
    };
  }
}

function at(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}
