import {
  type Call,
  type Criterion,
  type Entry,
  type EntryValue,
  isPass,
  type LossCriterion,
  lossTerms,
  type MethodSheet,
  trunkMap,
} from '@clear-mark/core';
import { chance, type Hand, pick, type Rng, type Workpiece } from '@clear-mark/sim';
import { demoEntry } from './demo-entry.ts';

/** A reference as the instructor wrote it down, and what source and cord really gave. */
export interface DayReference {
  readonly id: string;
  readonly wavelengthNm: 1310 | 1550;
  readonly writtenDbm: number;
  readonly trueDbm: number;
}

export interface PieceScene {
  readonly hand: Hand;
  readonly piece: Workpiece;
  /** Chance that the face is called wrong; null where it is the hand's. */
  readonly misjudges: number | null;
  readonly references: readonly DayReference[];
  readonly authorId: string;
  readonly deviceId: string;
  readonly startedAt: number;
}

/** Chance that a plain check fails, by the last part of its id. */
function failChance(name: string, { hand, piece, misjudges }: PieceScene): number {
  const facts: Readonly<Record<string, boolean>> = {
    'boot-on': piece.bootOn,
    'coating-gone': !piece.coatingLeft,
    bow: piece.bow,
    'glow-dims': piece.home,
  };
  if (name in facts) return facts[name] ? 0 : 1;
  const rates: Readonly<Record<string, number>> = {
    glasses: hand.slip * 0.008,
    'no-look': 0.0006,
    'dark-fiber': hand.testSlip * 0.012,
    'shards-ready': hand.slip * 0.5,
    kit: hand.slip * 0.3,
    marks: hand.slip * 0.6,
    'jacket-edge': hand.slip,
    'not-touched': hand.leavesDirt * 0.5,
    'inspect-order': hand.leavesDirt * 0.6,
    'mated-clean': hand.leavesDirt * 0.5,
    'inspect-call': misjudges ?? hand.testSlip * 0.5,
    'set-up': hand.testSlip * 0.3,
    'reference-set': hand.testSlip * 0.4,
    'cord-stays': hand.testSlip * 0.15,
    'trainee-verdict': hand.testSlip * 0.5,
    record: hand.testSlip * 0.8,
  };
  return rates[name] ?? hand.slip * 0.55;
}

const shortName = (criterion: Criterion): string => criterion.id.slice(criterion.id.lastIndexOf('/') + 1);

const one = (x: number): string => Math.max(0, x).toFixed(1);

function valueOf(
  criterion: Criterion,
  scene: PieceScene,
  at: number,
  rng: Rng,
  isGood: (criterionId: string) => boolean,
): EntryValue {
  const name = shortName(criterion);
  const { piece } = scene;
  switch (criterion.kind) {
    case 'check': {
      const passed = !chance(rng, failChance(name, scene));
      const faults = !passed && criterion.faults?.length ? [pick(rng, criterion.faults)] : undefined;
      return faults ? { kind: 'check', passed, faults } : { kind: 'check', passed };
    }
    case 'measure': {
      const text =
        name === 'cleave-angle'
          ? piece.cleaveAngleDeg.toFixed(2)
          : name === 'cleave-length'
            ? one(piece.cleaveLengthMm)
            : one(name === 'jacket-length' ? piece.jacketMm : piece.bareMm);
      return { kind: 'measure', text, unit: criterion.unit };
    }
    case 'count':
      return { kind: 'count', count: name === 'bites' ? piece.bites : piece.wipes };
    case 'timed': {
      const seconds = name === 'settle' ? 295 + Math.round(rng() * 200) : Math.round(piece.insertSeconds);
      return {
        kind: 'timed',
        startedAt: new Date(at - seconds * 1000).toISOString(),
        stoppedAt: new Date(at).toISOString(),
      };
    }
    case 'grade':
      return { kind: 'grade', level: name === 'cleave-face' ? piece.cleaveFace : piece.endFace };
    case 'call': {
      const truth: Call = isGood(criterion.of ?? '') ? 'pass' : 'fail';
      const slips = chance(rng, failChance(name, scene));
      return { kind: 'call', said: slips === (truth === 'fail') ? 'pass' : 'fail' };
    }
    case 'map':
      return { kind: 'map', far: trunkMap(criterion.trunk, criterion.ports) };
    case 'readings':
    case 'loss':
      throw new Error('loss has parts');
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

function lossValue(wavelengthNm: number, scene: PieceScene): EntryValue {
  const reference = scene.references.find((r) => r.wavelengthNm === wavelengthNm)!;
  const loss = scene.piece.lossDb[wavelengthNm as 1310 | 1550];
  return {
    kind: 'loss',
    text: (reference.trueDbm - loss).toFixed(2),
    unit: 'dBm',
    referenceId: reference.id,
  };
}

/** Whether a piece is good in the criterion that a call is about: its level, or its loss as the meter shows it. */
function goodness(sheet: MethodSheet, scene: PieceScene): (criterionId: string) => boolean {
  const criteria = sheet.steps.flatMap((s) => s.criteria);
  return (criterionId) => {
    const about = criteria.find((c) => c.id === criterionId);
    if (about?.kind === 'loss') {
      return about.wavelengthsNm.every((nm) => {
        const reference = scene.references.find((r) => r.wavelengthNm === nm)!;
        const shown = scene.piece.lossDb[nm as 1310 | 1550] + reference.writtenDbm - reference.trueDbm;
        return shown <= lossTerms(about.link, about.rules, nm).limitDb;
      });
    }
    const level =
      about?.kind === 'grade' ? about.levels.find((l) => l.id === scene.piece.endFace) : undefined;
    return level !== undefined && isPass(level.verdict);
  };
}

/**
 * The entries of one piece, in working order, as an instructor would make them while watching. Stops after
 * `steps` steps, and at a stop breach.
 */
export function scorePiece(sheet: MethodSheet, scene: PieceScene, rng: Rng, steps = Infinity): Entry[] {
  const entries: Entry[] = [];
  const isGood = goodness(sheet, scene);
  let at = scene.startedAt;
  const add = (criterion: Criterion, part: string, value: EntryValue): void => {
    entries.push(demoEntry(criterion, part, value, at, scene, rng));
  };
  for (const step of sheet.steps.slice(0, steps)) {
    for (const criterion of step.criteria) {
      at += 15_000 + Math.floor(rng() * 55_000);
      if (criterion.kind === 'loss') {
        for (const nm of (criterion satisfies LossCriterion).wavelengthsNm) {
          add(criterion, String(nm), lossValue(nm, scene));
        }
        continue;
      }
      const value = valueOf(criterion, scene, at, rng, isGood);
      add(criterion, '', value);
      if (criterion.stop && value.kind === 'check' && !value.passed) return entries;
    }
  }
  return entries;
}
