import { lossTerms, type LossTerms } from '../loss/index.ts';
import type { Criterion, LossCriterion, MethodSheet, Skill, Step } from '../sheet/index.ts';
import { type CompiledBand, compileBand } from './judge-band.ts';
import { CHARGE_PART, slotKey } from './resolve-entries.ts';

export interface CompiledCriterion {
  readonly criterion: Criterion;
  readonly step: Step;
  readonly skill: Skill;
  readonly band: CompiledBand | null;
  readonly chargeKey: string;
  /** One slot per part; a criterion without parts has one. */
  readonly slots: readonly {
    readonly part: string;
    readonly key: string;
    readonly terms: LossTerms | null;
  }[];
}

export interface CompiledSheet {
  readonly criteria: readonly CompiledCriterion[];
  readonly bySkill: ReadonlyMap<Skill, readonly number[]>;
  readonly byStep: readonly { readonly step: Step; readonly indexes: readonly number[] }[];
}

const compiled = new WeakMap<MethodSheet, CompiledSheet>();

/** Limits, loss terms and groups of a sheet, worked out once: a version in force never changes. */
export function compileSheet(sheet: MethodSheet): CompiledSheet {
  const known = compiled.get(sheet);
  if (known) return known;
  const criteria = sheet.steps.flatMap((step) => step.criteria.map((c) => compileCriterion(c, step)));
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
  const result = { criteria, bySkill, byStep };
  compiled.set(sheet, result);
  return result;
}

function compileCriterion(criterion: Criterion, step: Step): CompiledCriterion {
  return {
    criterion,
    step,
    skill: criterion.skill ?? step.skill,
    band: bandOf(criterion),
    chargeKey: slotKey(criterion.id, CHARGE_PART),
    slots:
      criterion.kind === 'loss'
        ? criterion.wavelengthsNm.map((nm) => lossSlot(criterion, nm))
        : [{ part: '', key: slotKey(criterion.id, ''), terms: null }],
  };
}

function lossSlot(criterion: LossCriterion, wavelengthNm: number): CompiledCriterion['slots'][number] {
  const part = String(wavelengthNm);
  return {
    part,
    key: slotKey(criterion.id, part),
    terms: lossTerms(criterion.link, criterion.rules, wavelengthNm),
  };
}

function bandOf(criterion: Criterion): CompiledBand | null {
  switch (criterion.kind) {
    case 'measure':
      return compileBand(criterion.band, criterion.unit, criterion.uncertainty);
    case 'count':
      return compileBand(criterion.band, '1');
    case 'timed':
      return compileBand(criterion.band, 's');
    case 'check':
    case 'grade':
    case 'loss':
      return null;
    default: {
      const never: never = criterion;
      return never;
    }
  }
}
