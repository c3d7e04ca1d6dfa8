import {
  DEFAULT_LOSS_SETTINGS,
  type Direction,
  DomainError,
  type JudgedLinkTest,
  judgeLinkTest,
  type LinkPlan,
  type LinkSegment,
  type LinkTest,
  linkUnderTest,
  type LossRules,
  type LossTerms,
  lossTerms,
  type ReferenceMethod,
  wavelengthsOf,
} from '@clear-mark/core';
import type { ClassLink } from '@clear-mark/contract';
import { moved } from '../../../shared/moved.ts';

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

/** The plan with a part at another place; joints stay where they are. */
export const movedSegment = (plan: LinkPlan, from: number, to: number): LinkPlan => ({
  ...plan,
  segments: [...moved(plan.segments, from, to)],
});

/** A name that no link has yet: the wanted one, or with the first number that is free. */
export function freshLabel(wanted: string, known: ReadonlySet<string>): string {
  let label = wanted;
  for (let n = 2; known.has(label); n += 1) label = `${wanted} ${n}`;
  return label;
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

const AT = '2026-01-01T00:00:00.000Z';

/** Judges typed losses against a reference of 0 dB. */
export function judgeLink(
  plan: LinkPlan,
  method: ReferenceMethod,
  rules: LossRules,
  readings: readonly TypedReading[],
  conditioned: LinkTest['conditioned'],
): JudgedLinkTest {
  const wavelengthsNm = wavelengthsOf(plan.fiberClass);
  return judgeLinkTest({
    link: linkUnderTest(plan, method),
    rules,
    wavelengthsNm,
    directions: ['a_b', 'b_a'],
    references: wavelengthsNm.map((nm) => ({
      id: `r${nm}`,
      method,
      wavelengthNm: nm,
      valueDbm: '0',
      setAt: AT,
      showsNegative: false,
      rereadDbm: null,
      voidReason: null,
    })),
    readings: readings.map(({ wavelengthNm, direction, text }) => ({
      wavelengthNm,
      direction,
      value: { text, unit: 'dB', referenceId: `r${wavelengthNm}` },
    })),
    at: AT,
    conditioned,
  });
}
