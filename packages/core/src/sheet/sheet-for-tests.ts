import type { Criterion, LossRules, MethodSheet, Source, Step } from './types.ts';

/** Makers of small sheets, shared by the tests. */
export const SOURCE: Source = { kind: 'house', fromMemory: false, words: 'for the test' };

export const RULES: LossRules = {
  connectionDb: { db: 0.75, source: SOURCE },
  spliceDb: { db: 0.3, source: SOURCE },
  fiberDbPerKm: { 1310: { db: 1, source: SOURCE }, 1550: { db: 1, source: SOURCE } },
  expectedConnectionDb: { db: 0.25, source: SOURCE },
  expectedSpliceDb: { db: 0.05, source: SOURCE },
  expectedFiberDbPerKm: { 1310: 0.35, 1550: 0.22 },
  floorDbPerKm: { 1310: 0.3, 1550: 0.17 },
  negativeToleranceDb: { db: -0.1, source: SOURCE },
  driftLimitDb: { db: 0.2, source: SOURCE },
  referenceAgeLimitHours: 4,
  bendStepDb: { db: 0.5, source: SOURCE },
  uncertainty: [{ name: 'all', shape: 'standard', db: 0.05 }],
};

const base = { points: 10, critical: false, required: true, source: SOURCE };
export const check = (id: string, more: Partial<Criterion> = {}): Criterion =>
  ({ ...base, id, kind: 'check', label: id, ...more }) as Criterion;
export const measure = (id: string, band: object, more: object = {}): Criterion =>
  ({ ...base, id, kind: 'measure', label: id, unit: 'mm', band, ...more }) as Criterion;
export const limit = (value: string, exclusive = false) => ({ value, exclusive, source: SOURCE });
export const loss = (id: string, more: object = {}): Criterion =>
  ({
    ...base,
    id,
    kind: 'loss',
    label: id,
    wavelengthsNm: [1310, 1550],
    link: { fiberClass: 'OS2', lengthM: 0, matedPairs: 1, splices: 0, referenceMethod: 'single_cord' },
    rules: RULES,
    ...more,
  }) as Criterion;

export const step = (id: string, skill: Step['skill'], criteria: Criterion[]): Step => ({
  id,
  title: id,
  skill,
  place: 'bench',
  how: '',
  criteria,
});

export const sheetOf = (...steps: Step[]): MethodSheet => ({
  id: 'test/sheet',
  version: 1,
  title: 'Test',
  summary: '',
  pieceKind: 'connector',
  fiberClass: 'OS2',
  passMarkPercent: 80,
  passMarkSource: SOURCE,
  cautions: [],
  thingsUsed: [],
  steps,
});
