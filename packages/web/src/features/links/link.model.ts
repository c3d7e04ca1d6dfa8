import {
  type ConclusionInput,
  concludeLoss,
  DEFAULT_LOSS_SETTINGS,
  DEFAULT_SCORING,
  type Direction,
  DomainError,
  type Entry,
  isLossPart,
  type LinkPlan,
  type LinkSegment,
  linkUnderTest,
  type LossCriterion,
  type LossPartOutcome,
  type LossReference,
  type LossRules,
  lossTerms,
  type LossTerms,
  type MethodSheet,
  parsePart,
  partKey,
  type ReferenceMethod,
  score,
  wavelengthsOf,
} from '@clear-mark/core';
import type { ClassLink } from '@clear-mark/contract';

/** A new link: one cable between two panels. */
export const newLink = (id: string, label: string): ClassLink => ({
  id,
  label,
  referenceMethod: 'one_cord',
  settings: { ...DEFAULT_LOSS_SETTINGS, budget: null },
  retired: false,
  plan: {
    fiberClass: 'OS2',
    fibers: 1,
    ends: ['panel', 'panel'],
    segments: [{ kind: 'cable', lengthM: 100, polish: 'flat' }],
    joints: [],
  },
});

const hasRow = (segments: readonly LinkSegment[]): boolean => segments.some((s) => s.kind !== 'cable');

/** The plan with a part added at the far end; a trunk or cassette makes it a link of twelve fibers. */
export function withSegment(plan: LinkPlan, kind: LinkSegment['kind']): LinkPlan {
  const last = plan.segments[plan.segments.length - 1];
  const polish = last?.polish ?? 'flat';
  const added: LinkSegment =
    kind === 'cable'
      ? { kind, lengthM: 100, polish }
      : kind === 'trunk'
        ? { kind, lengthM: 20, polish: 'flat', trunk: 'A', pins: false }
        : { kind, polish: 'flat', turned: false, pins: true };
  const segments = [...plan.segments, added];
  const joints = last ? [...plan.joints, 'connection' as const] : [];
  return { ...plan, segments, joints, fibers: hasRow(segments) ? Math.max(12, plan.fibers) : plan.fibers };
}

export function withoutSegment(plan: LinkPlan, at: number): LinkPlan {
  const segments = plan.segments.filter((_, i) => i !== at);
  const joint = at === 0 ? 0 : at - 1;
  const joints = plan.joints.filter((_, i) => i !== joint);
  return { ...plan, segments, joints, fibers: hasRow(segments) ? plan.fibers : 1 };
}

export function changedSegment(plan: LinkPlan, at: number, change: Partial<LinkSegment>): LinkPlan {
  const segments = plan.segments.map((s, i) => (i === at ? ({ ...s, ...change } as LinkSegment) : s));
  return { ...plan, segments };
}

/** Terms of a link by wavelength, or null while it has no limit. */
export function termsOfLink(
  plan: LinkPlan,
  method: ReferenceMethod,
  rules: LossRules,
): ReadonlyMap<number, LossTerms> | null {
  try {
    const link = linkUnderTest(plan, method);
    return new Map(wavelengthsOf(plan.fiberClass).map((nm) => [nm, lossTerms(link, rules, nm)]));
  } catch (error) {
    if (error instanceof DomainError) return null;
    throw error;
  }
}

/** A typed reading of the calculator: loss in dB, or a level against a reference. */
export interface TypedReading {
  readonly wavelengthNm: number;
  readonly direction: Direction;
  readonly text: string;
}

export interface JudgedLink {
  readonly parts: readonly LossPartOutcome[];
  readonly conclusions: ReturnType<typeof concludeLoss>;
}

const AT = '2026-01-01T00:00:00.000Z';
const SOURCE = { kind: 'house', fromMemory: false, words: 'typed here' } as const;

/** Judges typed losses by the same scoring as a sheet: one criterion, an entry for each reading. */
export function judgeLink(
  plan: LinkPlan,
  method: ReferenceMethod,
  rules: LossRules,
  readings: readonly TypedReading[],
  conditioned: ConclusionInput['conditioned'],
): JudgedLink {
  const link = linkUnderTest(plan, method);
  const wavelengthsNm = wavelengthsOf(plan.fiberClass);
  const criterion: LossCriterion = {
    id: 'loss',
    label: 'Loss',
    kind: 'loss',
    points: 1,
    critical: true,
    required: true,
    source: SOURCE,
    wavelengthsNm,
    link,
    rules,
    directions: ['a_b', 'b_a'],
  };
  const references: LossReference[] = wavelengthsNm.map((nm) => ({
    id: `r${nm}`,
    method,
    wavelengthNm: nm,
    valueDbm: '0',
    setAt: AT,
    showsNegative: false,
    rereadDbm: null,
    voidReason: null,
  }));
  const entries = readings.map((r, i): Entry => ({
    id: `e${i}`,
    kind: 'value',
    criterionId: 'loss',
    voidReason: null,
    note: null,
    authorId: '',
    capacity: 'instructor',
    deviceId: '',
    source: 'typed',
    at: AT,
    supersedes: [],
    targetId: null,
    part: partKey({ fiber: null, wavelengthNm: r.wavelengthNm, direction: r.direction }),
    value: { kind: 'loss', text: r.text, unit: 'dB', referenceId: `r${r.wavelengthNm}` },
  }));
  const sheet: MethodSheet = {
    id: 'link',
    version: 1,
    title: '',
    summary: '',
    pieceKind: 'link',
    fiberClass: plan.fiberClass,
    passMarkPercent: 80,
    passMarkSource: SOURCE,
    cautions: [],
    thingsUsed: [],
    steps: [{ id: 's', title: '', skill: 'test', place: 'instruments', how: '', criteria: [criterion] }],
  };
  const outcome = score(sheet, entries, { ...DEFAULT_SCORING, references }).criteria[0]!;
  const parts = outcome.parts.filter(isLossPart).filter((p) => p.verdict !== 'incomplete');
  const terms = new Map(wavelengthsNm.map((nm) => [nm, lossTerms(link, rules, nm)]));
  return {
    parts,
    conclusions: concludeLoss({
      link,
      terms,
      bendStepDb: rules.bendStepDb.db,
      conditioned,
      readings: parts.map(readingOf),
    }),
  };
}

/** A judged part as conclusions are drawn from it. */
export function readingOf(part: LossPartOutcome): ConclusionInput['readings'][number] {
  const { fiber, wavelengthNm, direction } = parsePart(part.part);
  return {
    wavelengthNm: wavelengthNm!,
    direction,
    fiber,
    lossDb: part.lossDb,
    verdict: part.verdict,
    reason: part.reason?.code ?? null,
  };
}
