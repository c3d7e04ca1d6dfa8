import type {
  Across,
  Band,
  CallCriterion,
  CheckCriterion,
  CountCriterion,
  GradeCriterion,
  GradeLevel,
  LinkUnderTest,
  LossCriterion,
  LossRules,
  MapCriterion,
  MeasureCriterion,
  Place,
  ReadingsCriterion,
  Skill,
  Source,
  Step,
  TimedCriterion,
  TrunkType,
  Unit,
} from '@clear-mark/core';

/** What most criteria leave at its default: required of every piece, not critical, the step's skill. */
export interface More {
  readonly critical?: boolean;
  readonly stop?: boolean;
  /** Scored when an instructor sees it; not seen costs nothing. */
  readonly sampled?: boolean;
  /** From the trainee's own entry at the bench, witnessed or not. */
  readonly trainee?: boolean;
  /** Asked of every piece though the trainee enters it. */
  readonly required?: boolean;
  readonly skill?: Skill;
  readonly hint?: string;
  readonly faults?: readonly string[];
}

type Quantity = Pick<MeasureCriterion, 'uncertainty' | 'less' | 'rangeOf'>;

/** What a wrong call is named by core. */
export const CALL_FAULTS = ['called_bad_good', 'called_good_bad'];

const acrossOf = (more: Across): Pick<Across, 'fibers' | 'directions'> => ({
  ...(more.fibers === undefined ? {} : { fibers: more.fibers }),
  ...(more.directions === undefined ? {} : { directions: more.directions }),
});

/** Makers of criteria whose ids lie under one method: `clear-mark/<method>/<name>`. */
export function criteriaOf(method: string) {
  const base = (name: string, label: string, points: number, source: Source, more: More) => ({
    id: `clear-mark/${method}/${name}`,
    label,
    points,
    critical: more.critical ?? more.stop ?? false,
    required: more.required ?? (!more.sampled && !more.trainee),
    source,
    ...(more.stop ? { stop: true } : {}),
    ...(more.trainee ? { acceptsTrainee: true } : {}),
    ...(more.skill ? { skill: more.skill } : {}),
    ...(more.hint ? { hint: more.hint } : {}),
    ...(more.faults ? { faults: more.faults } : {}),
  });
  return {
    check: (
      name: string,
      label: string,
      points: number,
      source: Source,
      faults: string,
      more: More = {},
    ): CheckCriterion => ({
      ...base(name, label, points, source, { ...more, faults: faults.split(' ') }),
      kind: 'check',
    }),
    measure: (
      name: string,
      label: string,
      points: number,
      unit: Unit,
      band: Band,
      source: Source,
      more: More & Quantity = {},
    ): MeasureCriterion => ({
      ...base(name, label, points, source, more),
      kind: 'measure',
      unit,
      band,
      ...(more.uncertainty ? { uncertainty: more.uncertainty } : {}),
      ...(more.less ? { less: `clear-mark/${method}/${more.less}` } : {}),
      ...(more.rangeOf ? { rangeOf: `clear-mark/${method}/${more.rangeOf}` } : {}),
    }),
    count: (
      name: string,
      label: string,
      points: number,
      noun: string,
      band: Band,
      source: Source,
      more: More = {},
    ): CountCriterion => ({
      ...base(name, label, points, source, more),
      kind: 'count',
      noun,
      band,
    }),
    timed: (
      name: string,
      label: string,
      points: number,
      band: Band,
      source: Source,
      more: More = {},
    ): TimedCriterion => ({
      ...base(name, label, points, source, more),
      kind: 'timed',
      band,
    }),
    grade: (
      name: string,
      label: string,
      points: number,
      levels: readonly GradeLevel[],
      source: Source,
      more: More = {},
    ): GradeCriterion => ({
      ...base(name, label, points, source, more),
      kind: 'grade',
      levels,
    }),
    loss: (
      name: string,
      label: string,
      points: number,
      wavelengthsNm: readonly number[],
      link: LinkUnderTest,
      rules: LossRules,
      source: Source,
      more: More & Across & { readonly conditionedBy?: string } = {},
    ): LossCriterion => ({
      ...base(name, label, points, source, more),
      ...acrossOf(more),
      kind: 'loss',
      wavelengthsNm,
      link,
      rules,
      ...(more.conditionedBy ? { conditionedBy: `clear-mark/${method}/${more.conditionedBy}` } : {}),
    }),
    readings: (
      name: string,
      label: string,
      points: number,
      unit: Unit,
      band: Band,
      source: Source,
      more: More & Quantity & Across & Pick<ReadingsCriterion, 'combine'>,
    ): ReadingsCriterion => ({
      ...base(name, label, points, source, more),
      ...acrossOf(more),
      kind: 'readings',
      unit,
      band,
      ...(more.uncertainty ? { uncertainty: more.uncertainty } : {}),
      ...(more.wavelengthsNm ? { wavelengthsNm: more.wavelengthsNm } : {}),
      ...(more.combine ? { combine: more.combine } : {}),
    }),
    map: (
      name: string,
      label: string,
      points: number,
      ports: number,
      trunk: TrunkType,
      source: Source,
      more: More = {},
    ): MapCriterion => ({ ...base(name, label, points, source, more), kind: 'map', ports, trunk }),
    /** The trainee's own judgement of what the named criterion of the same method found. */
    call: (
      name: string,
      label: string,
      points: number,
      of: string,
      source: Source,
      more: More = {},
    ): CallCriterion => ({
      ...base(name, label, points, source, { ...more, faults: CALL_FAULTS, trainee: true }),
      kind: 'call',
      of: `clear-mark/${method}/${of}`,
    }),
  };
}

export type Criteria = ReturnType<typeof criteriaOf>;

export const step = (
  id: string,
  title: string,
  skill: Skill,
  place: Place,
  how: string,
  criteria: Step['criteria'],
  cautions: Step['cautions'] = [],
  drawing?: string,
): Step => ({
  id,
  title,
  skill,
  place,
  how,
  criteria,
  ...(cautions.length > 0 ? { cautions } : {}),
  ...(drawing === undefined ? {} : { drawing }),
});

/** A caution that ends the attempt when it is broken, and one that asks for care. */
export const stop = (text: string) => ({ text, stop: true });
export const care = (text: string) => ({ text, stop: false });

export const atMost = (value: string, source: Source, target?: string): Band => ({
  upper: { value, source },
  ...(target === undefined ? {} : { target }),
});
export const atLeast = (value: string, source: Source): Band => ({ lower: { value, source } });
export const between = (lower: string, upper: string, source: Source, target?: string): Band => ({
  lower: { value: lower, source },
  upper: { value: upper, source },
  ...(target === undefined ? {} : { target }),
});

/** The level given, then the ones below it: `level('mirror', 'Mirror', 'pass', 5, 'cleave-mirror')`. */
export const level = (
  id: string,
  label: string,
  verdict: GradeLevel['verdict'],
  points: number,
  drawing: string,
): GradeLevel => ({ id, label, verdict, points, drawing });
