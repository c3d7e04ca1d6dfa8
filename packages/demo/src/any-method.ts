import {
  type Band,
  type Call,
  coverageOf,
  type Criterion,
  type Entry,
  type EntryValue,
  type GradeLevel,
  type Hazard,
  isPass,
  lossTerms,
  type MethodSheet,
  partKey,
  partsOf,
  isTradeSkill,
  type Skill,
  STOP_PART,
  type TradeSkill,
  trunkMap,
  isWorkedOut,
} from '@clear-mark/core';
import { chance, normal, pick, type Rng } from '@clear-mark/sim';
import { demoEntry } from './demo-entry.ts';

/** Whose piece by whatever method, and how it goes. */
export interface AnyScene {
  /** Chance of a slip in one item of a skill. */
  readonly slip: Readonly<Record<TradeSkill, number>>;
  /** Chance that a face is called wrong. */
  readonly misjudges: number;
  /** What the splicer adds to every joint, dB. */
  readonly addedJointDb: number;
  /** The reference of a wavelength in nm; needed where the method measures losses. */
  readonly referenceId: (wavelengthNm: number) => string;
  readonly authorId: string;
  readonly deviceId: string;
  readonly startedAt: number;
  /** The instructor stops the piece at its third step for this. */
  readonly stop?: Hazard;
}

/** Share of what is scored only when an instructor sees it. */
const SEEN = 0.45;
const DIGITS = 2;

/**
 * Entries of one piece by any method, in working order: each item as its kind has it, good ones around the middle of their
 * band, a slip just beyond it. Ends at a stop.
 */
export function scoreAny(sheet: MethodSheet, scene: AnyScene, rng: Rng): Entry[] {
  const entries: Entry[] = [];
  const passed = new Map<string, boolean>();
  let at = scene.startedAt;
  const add = (criterion: Criterion, part: string, value: EntryValue): void => {
    at += 6_000 + Math.floor(rng() * 26_000);
    entries.push(demoEntry(criterion, part, value, at, scene, rng));
  };
  for (const [index, step] of sheet.steps.entries()) {
    for (const criterion of step.criteria) {
      if (coverageOf(criterion) === 'sampled' && !chance(rng, SEEN)) continue;
      const skill = criterion.skill ?? step.skill;
      if (scene.stop && index === 2) {
        add(criterion, STOP_PART, { kind: 'stop', hazard: scene.stop });
        return entries;
      }
      for (const [part, value, good] of valuesOf(criterion, skill, scene, passed, rng)) {
        add(criterion, part, value);
        passed.set(criterion.id, (passed.get(criterion.id) ?? true) && good);
        if (criterion.stop && !good) return entries;
      }
    }
  }
  return entries;
}

type Made = [part: string, value: EntryValue, good: boolean];

function valuesOf(
  criterion: Criterion,
  skill: Skill,
  scene: AnyScene,
  passed: ReadonlyMap<string, boolean>,
  rng: Rng,
): Made[] {
  const slipIn = (of: Skill): number => scene.slip[isTradeSkill(of) ? of : 'terminate'];
  const slips = (share: number): boolean => chance(rng, slipIn(skill) * share);
  switch (criterion.kind) {
    case 'check': {
      const good = !slips(criterion.stop ? 0.01 : criterion.critical ? 0.3 : 0.55);
      const faults = !good && criterion.faults?.length ? [pick(rng, criterion.faults)] : [];
      const value = faults.length > 0 ? { passed: good, faults } : { passed: good };
      return [['', { kind: 'check', ...value }, good]];
    }
    case 'measure': {
      if (isWorkedOut(criterion)) return [];
      const added = criterion.id.endsWith('/estimate') ? scene.addedJointDb : 0;
      const [text, good] = measured(criterion.band, slips(0.7), added, rng);
      return [['', { kind: 'measure', text, unit: criterion.unit }, good]];
    }
    case 'readings':
      return partsOf(criterion).map((part): Made => {
        const [text, good] = measured(criterion.band, slips(0.15), 0, rng);
        return [partKey(part), { kind: 'measure', text, unit: criterion.unit }, good];
      });
    case 'count': {
      const [count, good] = counted(criterion.band, slips(0.4), rng);
      return [['', { kind: 'count', count }, good]];
    }
    case 'timed': {
      const [seconds, good] = timed(criterion.band, slips(0.5), rng);
      return [['', { kind: 'timed', text: String(seconds) }, good]];
    }
    case 'grade': {
      const level = levelOf(criterion.levels, slips(criterion.id.endsWith('/joint') ? 0.5 : 0.9), rng);
      return [['', { kind: 'grade', level: level.id }, isPass(level.verdict)]];
    }
    case 'call': {
      const truth: Call = (passed.get(criterion.of ?? '') ?? true) ? 'pass' : 'fail';
      const wrong = chance(rng, skill === 'inspect' ? scene.misjudges : slipIn(skill) * 0.5);
      const said: Call = wrong === (truth === 'fail') ? 'pass' : 'fail';
      const reference = criterion.of === undefined ? { reference: truth } : {};
      return [['', { kind: 'call', said, ...reference }, !wrong]];
    }
    case 'map': {
      const far = trunkMap(criterion.trunk, criterion.ports);
      if (!slips(0.3)) return [['', { kind: 'map', far }, true]];
      const at = Math.floor(rng() * (far.length - 1));
      const crossed = far.map((x, i) => (i === at ? far[at + 1]! : i === at + 1 ? far[at]! : x));
      return [['', { kind: 'map', far: crossed }, false]];
    }
    case 'loss': {
      const bad = slips(0.6);
      const parts = partsOf(criterion);
      const worst = Math.floor(rng() * parts.length);
      return parts.map((part, i): Made => {
        const terms = lossTerms(criterion.link, criterion.rules, part.wavelengthNm!);
        const own = terms.expectedDb + normal(rng, 0, 0.04 * Math.max(1, terms.connections));
        const db = bad && i === worst ? terms.limitDb + 0.1 + rng() * 0.4 : Math.max(0.02, own);
        const referenceId = scene.referenceId(part.wavelengthNm!);
        const value = { kind: 'loss', text: db.toFixed(DIGITS), unit: 'dB', referenceId } as const;
        return [partKey(part), value, db <= terms.limitDb];
      });
    }
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

/** A length, an angle or a loss of a splice in a band, as it is written down, and whether it lies inside. */
function measured(band: Band, slips: boolean, added: number, rng: Rng): [string, boolean] {
  const lower = band.lower ? Number(band.lower.value) : null;
  const upper = band.upper ? Number(band.upper.value) : null;
  const value = slips ? beyond(lower, upper, rng) : inside(lower, upper, rng);
  const text = Math.max(0, value + added).toFixed(DIGITS);
  const written = Number(text);
  return [text, (lower === null || written >= lower) && (upper === null || written <= upper)];
}

function inside(lower: number | null, upper: number | null, rng: Rng): number {
  if (lower !== null && upper !== null) {
    const half = (upper - lower) / 2;
    return (lower + upper) / 2 + Math.max(-0.95, Math.min(0.95, normal(rng, 0, 0.35))) * half;
  }
  if (upper !== null) return upper * Math.min(0.95, 0.45 * Math.exp(normal(rng, 0, 0.3)));
  return (lower ?? 1) * (1.02 + 0.1 * Math.abs(normal(rng)));
}
function beyond(lower: number | null, upper: number | null, rng: Rng): number {
  const by = 0.05 + 0.4 * rng();
  if (lower !== null && upper !== null) {
    const half = (upper - lower) / 2;
    return chance(rng, 0.5) ? upper + by * half * 2 : lower - by * half * 2;
  }
  return upper !== null ? upper * (1 + by) : (lower ?? 1) * (1 - by);
}

function counted(band: Band, slips: boolean, rng: Rng): [number, boolean] {
  const lower = band.lower ? Number(band.lower.value) : 0;
  const upper = band.upper ? Number(band.upper.value) : null;
  if (slips) {
    if (upper !== null) return [upper + 1 + Math.floor(rng() * 2), false];
    if (lower > 0) return [lower - 1, false];
  }
  return [lower + Math.floor(rng() * ((upper ?? lower + 3) - lower + 1)), true];
}

function timed(band: Band, slips: boolean, rng: Rng): [number, boolean] {
  const lower = band.lower ? Number(band.lower.value) : null;
  const upper = band.upper ? Number(band.upper.value) : null;
  if (slips && upper !== null) return [Math.ceil(upper * (1.1 + 0.4 * rng())), false];
  if (slips && lower !== null) return [Math.floor(lower * (0.6 + 0.3 * rng())), false];
  if (upper !== null) return [Math.floor((lower ?? 0) + (upper - (lower ?? 0)) * (0.3 + 0.6 * rng())), true];
  return [Math.ceil((lower ?? 60) * (1 + 0.3 * rng())), true];
}

function levelOf(levels: readonly GradeLevel[], slips: boolean, rng: Rng): GradeLevel {
  const bad = levels.filter((l) => !isPass(l.verdict));
  const good = levels.filter((l) => isPass(l.verdict));
  if (slips && bad.length > 0) return chance(rng, 0.75) ? bad[0]! : pick(rng, bad);
  return chance(rng, 0.88) ? levels[0]! : pick(rng, good);
}
