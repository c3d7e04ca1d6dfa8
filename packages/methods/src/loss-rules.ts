import {
  type Coefficients,
  DEFAULT_LOSS_SETTINGS,
  type FiberClass,
  fiberMode,
  isSingleMode,
  type LossRules,
  type LossSettings,
  REFERENCE_SET_UPS,
  type ReferenceMethod,
  type SourcedDb,
  type UncertaintyPart,
  withLossTable,
} from '@clear-mark/core';
import { commonPractice, house, standardFromMemory } from './sources.ts';

/**
 * How far source and meter may have moved when the reference is read again, dB. What is let pass is in every reading's
 * uncertainty as well: with a drift of this much a reading can be wrong by as much.
 */
export const DRIFT_DB = 0.1;

/** How long a reference serves, hours. House. */
const REFERENCE_AGE_HOURS = 4;
/** What a reference may move by and how old it may be in every shipped method. */
export const LOSS_REFERENCE_RULES = { mostDriftDb: DRIFT_DB, mostHours: REFERENCE_AGE_HOURS } as const;

/** Single-mode inside plant at 1310 and 1550 nm, one cord in the reference. */
export const SINGLE_MODE_INSIDE: LossRules = {
  connectionDb: { db: 0.75, source: standardFromMemory('TIA-568: 0.75 dB a mated pair') },
  spliceDb: { db: 0.3, source: standardFromMemory('TIA-568: 0.3 dB a splice') },
  fiberDbPerKm: {
    1310: { db: 1.0, source: standardFromMemory('TIA-568: 1.0 dB/km, single-mode inside plant') },
    1550: { db: 1.0, source: standardFromMemory('TIA-568: 1.0 dB/km, single-mode inside plant') },
  },
  expectedConnectionDb: { db: 0.25, source: house('good work on a single-mode connection') },
  expectedSpliceDb: { db: 0.05, source: house('good work on a splice') },
  expectedFiberDbPerKm: { 1310: 0.35, 1550: 0.22 },
  floorDbPerKm: { 1310: 0.3, 1550: 0.17 },
  negativeToleranceDb: { db: -0.1, source: house('a loss below this cannot be: the reference is wrong') },
  driftLimitDb: { db: DRIFT_DB, source: house('a reference that moved further is set again') },
  referenceAgeLimitHours: REFERENCE_AGE_HOURS,
  bendStepDb: { db: 0.5, source: house('1550 nm this far above 1310 nm points to a bend') },
  uncertainty: [
    { name: 'mating the launch cord again', shape: 'rectangular', db: 0.08 },
    {
      name: 'source and meter, as far as the reference may move',
      shape: 'rectangular',
      db: DRIFT_DB,
      of: 'drift',
    },
    { name: 'last digit of the meter', shape: 'rectangular', db: 0.005 },
  ],
};

/** Multimode at 850 and 1300 nm, today's coefficients. */
export const MULTIMODE: LossRules = {
  ...SINGLE_MODE_INSIDE,
  fiberDbPerKm: {
    850: { db: 3.0, source: standardFromMemory('TIA-568: 3.0 dB/km at 850 nm; 3.5 in older tables') },
    1300: { db: 1.5, source: standardFromMemory('TIA-568: 1.0 to 1.5 dB/km at 1300 nm') },
  },
  expectedConnectionDb: { db: 0.3, source: house('good work on a multimode connection') },
  expectedFiberDbPerKm: { 850: 2.5, 1300: 0.7 },
  floorDbPerKm: { 850: 2.2, 1300: 0.5 },
};

const memory = (db: number, words: string): SourcedDb => ({ db, source: standardFromMemory(words) });
const practice = (db: number, words: string): SourcedDb => ({ db, source: commonPractice(words) });

/** Coefficients that differ from the shipped table of inside plant. The practice options of a method choose from the same. */
export const SINGLE_MODE_TABLES: Readonly<Partial<Record<Coefficients, LossRules['fiberDbPerKm']>>> = {
  outside: {
    1310: memory(0.5, 'TIA-568: 0.5 dB/km, single-mode outside plant'),
    1550: memory(0.5, 'TIA-568: 0.5 dB/km, single-mode outside plant'),
  },
  maker: {
    1310: practice(0.35, 'typical of today’s fiber; the maker’s value goes first'),
    1550: practice(0.22, 'typical of today’s fiber; the maker’s value goes first'),
  },
};
export const MULTIMODE_TABLES: Readonly<Partial<Record<Coefficients, LossRules['fiberDbPerKm']>>> = {
  older: {
    850: memory(3.5, 'older tables: 3.5 dB/km at 850 nm'),
    1300: memory(1.5, 'older tables: 1.5 dB/km at 1300 nm'),
  },
};

export const REFERENCE_END = {
  multimode: memory(0.5, 'ISO/IEC 14763-3: 0.5 dB to a reference-grade connector, multimode'),
  singleMode: memory(0.75, 'ISO/IEC 14763-3: 0.75 dB to a reference-grade connector, single-mode'),
};

/**
 * The shipped uncertainty budget of a reference method. Every adapter in the reference and every pair of breakout cords
 * adds a component; reference-grade cords mate again more alike; a multimode launch without conditioning adds the high-
 * order modes, which go one way only and are taken as a half-width. All figures are of the house.
 */
export function shippedBudget(
  method: ReferenceMethod,
  { referenceGrade, conditioned }: Pick<LossSettings, 'referenceGrade' | 'conditioned'>,
  multimode: boolean,
): readonly UncertaintyPart[] {
  const [mating, ...rest] = SINGLE_MODE_INSIDE.uncertainty;
  const adapters = REFERENCE_SET_UPS[method].adapters;
  const mated: UncertaintyPart = referenceGrade
    ? { name: 'mating a reference-grade cord again', shape: 'rectangular', db: 0.05 }
    : mating!;
  const each = referenceGrade ? 0.03 : 0.05;
  return [
    mated,
    ...rest,
    ...Array.from({ length: adapters }, (_, i) => ({
      name: `adapter ${i + 1} in the reference`,
      shape: 'rectangular' as const,
      db: each,
    })),
    ...(method === 'breakout'
      ? [{ name: 'two breakout cords, their legs unlike', shape: 'rectangular' as const, db: 0.15 }]
      : []),
    ...(multimode && !conditioned
      ? [{ name: 'launch not conditioned', shape: 'rectangular' as const, db: 0.25 }]
      : []),
  ];
}

/** The rules of a link: table of its class, allowances, expected losses and budget, each with its source. */
export function lossRulesFor(
  fiberClass: FiberClass,
  method: ReferenceMethod,
  settings: LossSettings = DEFAULT_LOSS_SETTINGS,
): LossRules {
  const single = isSingleMode(fiberClass);
  const base = single ? SINGLE_MODE_INSIDE : MULTIMODE;
  const table = (single ? SINGLE_MODE_TABLES : MULTIMODE_TABLES)[settings.coefficients];
  const shipped = {
    ...base,
    ...(table ? { fiberDbPerKm: table } : {}),
    ...(settings.counts === 'connectors' ? { counts: 'connectors' as const } : {}),
    ...(settings.referenceGrade
      ? { referenceEndDb: single ? REFERENCE_END.singleMode : REFERENCE_END.multimode }
      : {}),
    uncertainty: settings.budget ?? shippedBudget(method, settings, !single),
  };
  return settings.table?.fiber === fiberMode(fiberClass) ? withLossTable(shipped, settings.table) : shipped;
}
