import type { Source } from '../../sheet/index.ts';

export const FACE_ZONES = ['A', 'B', 'C', 'D'] as const;
export type FaceZone = (typeof FACE_ZONES)[number];
export const FEATURE_KINDS = ['scratch', 'defect'] as const;
export type FeatureKind = (typeof FEATURE_KINDS)[number];

/** So many features of a size are allowed; null is any number. Sizes in um, both ends included unless `under`. */
export interface SizeBand {
  readonly fromUm: number;
  readonly toUm: number;
  readonly under?: boolean;
  readonly count: number | null;
}
/** Bands that are allowed; a feature outside all of them fails the zone. `no_limit` allows everything. */
export type FeatureRule = 'no_limit' | readonly SizeBand[];

export interface ZoneRule {
  readonly zone: FaceZone;
  /** Diameters, um. */
  readonly fromUm: number;
  readonly toUm: number;
  readonly scratches: FeatureRule;
  readonly defects: FeatureRule;
}

export interface FaceCriteria {
  readonly id: string;
  readonly version: number;
  readonly title: string;
  readonly zones: readonly ZoneRule[];
  readonly source: Source;
}

const NONE: FeatureRule = [];
const any = (toUm: number): SizeBand => ({ fromUm: 0, toUm, count: null });
const anyUnder = (toUm: number): SizeBand => ({ fromUm: 0, toUm, under: true, count: null });
/** Any number under 2 um, five from 2 to 5 um, none over 5 um. */
const CLADDING_DEFECTS: FeatureRule = [anyUnder(2), { fromUm: 2, toUm: 5, count: 5 }];
const OUTSIDE: readonly ZoneRule[] = [
  { zone: 'C', fromUm: 115, toUm: 135, scratches: 'no_limit', defects: 'no_limit' },
  { zone: 'D', fromUm: 135, toUm: 250, scratches: 'no_limit', defects: [anyUnder(10)] },
];
const SOURCE: Source = {
  kind: 'standard',
  fromMemory: true,
  words: 'IEC 61300-3-35: zones, sizes and counts',
};

/** The shipped tables. Every figure from memory: a school edits a copy and raises its version. */
export const FACE_CRITERIA: readonly FaceCriteria[] = [
  {
    id: 'sm-pc',
    version: 1,
    title: 'Single-mode, flat polish, return loss 45 dB or better',
    source: SOURCE,
    zones: [
      { zone: 'A', fromUm: 0, toUm: 25, scratches: NONE, defects: NONE },
      { zone: 'B', fromUm: 25, toUm: 115, scratches: [any(3)], defects: CLADDING_DEFECTS },
      ...OUTSIDE,
    ],
  },
  {
    id: 'sm-apc',
    version: 1,
    title: 'Single-mode, angled polish',
    source: SOURCE,
    zones: [
      { zone: 'A', fromUm: 0, toUm: 25, scratches: [{ fromUm: 0, toUm: 3, count: 4 }], defects: NONE },
      { zone: 'B', fromUm: 25, toUm: 115, scratches: 'no_limit', defects: CLADDING_DEFECTS },
      ...OUTSIDE,
    ],
  },
  {
    id: 'mm',
    version: 1,
    title: 'Multimode',
    source: SOURCE,
    zones: [
      { zone: 'A', fromUm: 0, toUm: 65, scratches: [any(3)], defects: [{ fromUm: 0, toUm: 5, count: 4 }] },
      { zone: 'B', fromUm: 65, toUm: 115, scratches: [any(5)], defects: CLADDING_DEFECTS },
      ...OUTSIDE,
    ],
  },
];

/** A table by its id; null where there is none. */
export const faceCriteria = (id: string): FaceCriteria | null =>
  FACE_CRITERIA.find((c) => c.id === id) ?? null;
