import { lossTerms, type LossTerms } from '../loss/index.ts';
import {
  type Criterion,
  type MethodSheet,
  partKey,
  partsOf,
  type ReadingPart,
  type Skill,
  skillsInOrder,
  type Step,
} from '../sheet/index.ts';
import { type CompiledBand, compileBand } from './judge-band.ts';
import { CHARGE_PART, STOP_PART, slotKey } from './resolve-entries.ts';

export interface CompiledCriterion {
  readonly criterion: Criterion;
  readonly step: Step;
  readonly skill: Skill;
  readonly band: CompiledBand | null;
  readonly chargeKey: string;
  readonly stopKey: string;
  /** Index of the criterion that this one hangs on: what a call is about, or the check of a loss test's launch. */
  readonly about: number | null;
  /** One slot per part; a criterion without parts has one. */
  readonly slots: readonly CompiledSlot[];
}

export interface CompiledSlot {
  readonly part: string;
  readonly key: string;
  readonly place: ReadingPart;
  /** `fiber`, `wavelength` and `direction` of the part, as reasons carry them. */
  readonly params: Readonly<Record<string, string | number>>;
  readonly terms: LossTerms | null;
}

export interface CompiledSheet {
  readonly criteria: readonly CompiledCriterion[];
  /** Skills of the criteria, in order. */
  readonly skills: readonly Skill[];
  readonly bySkill: ReadonlyMap<Skill, readonly number[]>;
  readonly byStep: readonly { readonly step: Step; readonly indexes: readonly number[] }[];
}

const compiled = new WeakMap<MethodSheet, CompiledSheet>();

/** Limits, loss terms and groups of a sheet, worked out once: a version in force never changes. */
export function compileSheet(sheet: MethodSheet): CompiledSheet {
  const known = compiled.get(sheet);
  if (known) return known;
  const listed = sheet.steps.flatMap((step) => step.criteria.map((c) => ({ c, step })));
  const indexOf = new Map(listed.map(({ c }, index) => [c.id, index]));
  const criteria = listed.map(({ c, step }) => compileCriterion(c, step, indexOf));
  const bySkill = new Map<Skill, number[]>();
  criteria.forEach(({ skill }, index) => {
    const list = bySkill.get(skill);
    if (list) list.push(index);
    else bySkill.set(skill, [index]);
  });
  const byStep = sheet.steps.map((step) => ({
    step,
    indexes: criteria.flatMap((c, index) => (c.step === step ? [index] : [])),
  }));
  const result = { criteria, skills: skillsInOrder(bySkill.keys()), bySkill, byStep };
  compiled.set(sheet, result);
  return result;
}

function compileCriterion(
  criterion: Criterion,
  step: Step,
  indexOf: ReadonlyMap<string, number>,
): CompiledCriterion {
  return {
    criterion,
    step,
    skill: criterion.skill ?? step.skill,
    band: bandOf(criterion),
    chargeKey: slotKey(criterion.id, CHARGE_PART),
    stopKey: slotKey(criterion.id, STOP_PART),
    about: hangsOn(criterion, indexOf),
    slots: slotsOf(criterion),
  };
}

function hangsOn(criterion: Criterion, indexOf: ReadonlyMap<string, number>): number | null {
  const id =
    criterion.kind === 'call'
      ? criterion.of
      : criterion.kind === 'loss'
        ? criterion.conditionedBy
        : criterion.kind === 'measure'
          ? (criterion.less ?? criterion.rangeOf)
          : undefined;
  return id === undefined ? null : (indexOf.get(id) ?? null);
}

function slotsOf(criterion: Criterion): CompiledSlot[] {
  const terms =
    criterion.kind === 'loss'
      ? new Map(
          criterion.wavelengthsNm.map((nm) => [nm, lossTerms(criterion.link, criterion.rules, nm)] as const),
        )
      : null;
  return partsOf(criterion).map((place) => {
    const part = partKey(place);
    return {
      part,
      key: slotKey(criterion.id, part),
      place,
      params: {
        ...(place.fiber === null ? {} : { fiber: place.fiber }),
        ...(place.wavelengthNm === null ? {} : { wavelength: place.wavelengthNm }),
        ...(place.direction === null ? {} : { direction: place.direction }),
      },
      terms: terms?.get(place.wavelengthNm!) ?? null,
    };
  });
}

function bandOf(criterion: Criterion): CompiledBand | null {
  switch (criterion.kind) {
    case 'measure':
    case 'readings':
      return compileBand(criterion.band, criterion.unit, criterion.uncertainty);
    case 'count':
      return compileBand(criterion.band, '1');
    case 'timed':
      return compileBand(criterion.band, 's');
    case 'check':
    case 'grade':
    case 'loss':
    case 'map':
    case 'call':
      return null;
    default: {
      const never: never = criterion;
      return never;
    }
  }
}
