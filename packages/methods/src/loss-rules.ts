import type { LossRules } from '@clear-mark/core';
import { house, standardFromMemory } from './sources.ts';

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
  driftLimitDb: { db: 0.2, source: house('a reference that moved further is set again') },
  referenceAgeLimitHours: 4,
  bendStepDb: { db: 0.5, source: house('1550 nm this far above 1310 nm points to a bend') },
  uncertainty: [
    { name: 'mating the launch cord again', shape: 'rectangular', db: 0.08 },
    { name: 'source and meter within four hours', shape: 'rectangular', db: 0.05 },
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
