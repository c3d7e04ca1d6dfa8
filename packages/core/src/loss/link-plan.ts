import { DomainError } from '../domain-error.ts';
import type { FiberClass, LinkUnderTest, ReferenceMethod, TrunkType } from '../sheet/index.ts';

/** Flat polish or angled; the two do not mate. */
export const POLISHES = ['flat', 'angled'] as const;
export type Polish = (typeof POLISHES)[number];

/** One piece of a link between two joints. */
export type LinkSegment =
  | {
      readonly kind: 'cable';
      readonly lengthM: number;
      readonly polish: Polish;
      readonly coreUm?: number;
      /** Coefficients of its data sheet, dB/km by wavelength in nm; those of the table where it has none. */
      readonly dbPerKm?: Readonly<Record<string, number>>;
    }
  | {
      readonly kind: 'trunk';
      readonly lengthM: number;
      readonly polish: Polish;
      readonly trunk: TrunkType;
      /** Alignment pins at both of its connectors. */
      readonly pins: boolean;
    }
  | { readonly kind: 'cassette'; readonly polish: Polish; readonly turned: boolean; readonly pins: boolean };

/** What holds two neighbours together. */
export const LINK_JOINTS = ['connection', 'splice'] as const;
export type LinkJoint = (typeof LINK_JOINTS)[number];

/** How an end is reached: at a panel's adapter, as a plug of its own, or not at all (a bare end). */
export const LINK_ENDS = ['panel', 'plug', 'bare'] as const;
export type LinkEnd = (typeof LINK_ENDS)[number];

export interface LinkPlan {
  readonly fiberClass: FiberClass;
  readonly fibers: number;
  /** Fibers of these that are dark by design, from 1: not read and in no outcome. */
  readonly darkFibers?: readonly number[];
  readonly ends: readonly [LinkEnd, LinkEnd];
  /** From the near end to the far one. */
  readonly segments: readonly LinkSegment[];
  /** One between every two neighbouring segments. */
  readonly joints: readonly LinkJoint[];
}

/** Core diameter in um by class; single-mode by its name, since the light fills more than the core. */
export const CORE_UM: Readonly<Record<FiberClass, number>> = {
  OS1: 9,
  OS2: 9,
  OM1: 62.5,
  OM2: 50,
  OM3: 50,
  OM4: 50,
  OM5: 50,
};
/** Whether a fiber class is single-mode (OS1, OS2), by its name. */
export const isSingleMode = (fiberClass: FiberClass): boolean => fiberClass.startsWith('OS');
/** The wavelengths in nm at which a fiber class is tested: common practice. Example: OS2 at 1310 and 1550. */
export const wavelengthsOf = (fiberClass: FiberClass): readonly number[] =>
  isSingleMode(fiberClass) ? [1310, 1550] : [850, 1300];

/** Longest link that is believed, km: beyond it a length is a slip of the unit. House. */
const LONGEST_KM = { single: 200, multi: 5 };

/** What is wrong with a described link. Those that stop leave it without a limit. */
export type LinkFinding =
  | { readonly code: 'link.empty' | 'link.all_dark'; readonly stops: true; readonly params: object }
  | {
      readonly code: 'link.bare_end';
      readonly stops: true;
      readonly params: { readonly end: 'near' | 'far' };
    }
  | { readonly code: 'link.no_length'; readonly stops: true; readonly params: { readonly segment: number } }
  | {
      readonly code: 'link.too_long';
      readonly stops: true;
      readonly params: { readonly km: number; readonly most: number };
    }
  | { readonly code: 'link.splice_mpo'; readonly stops: true; readonly params: { readonly joint: number } }
  | {
      readonly code: 'link.angled_to_flat';
      readonly stops: false;
      readonly params: { readonly joint: number };
    }
  | {
      readonly code: 'link.core_mixed';
      readonly stops: false;
      readonly params: { readonly segment: number; readonly coreUm: number; readonly wants: number };
    }
  | {
      readonly code: 'link.pins_both' | 'link.pins_none';
      readonly stops: false;
      readonly params: { readonly joint: number };
    };

const lengthOf = (segment: LinkSegment): number => (segment.kind === 'cassette' ? 0 : segment.lengthM);

/**
 * What is wrong with a link as described, from what leaves it without a limit to what is worth a look. Segments and
 * joints are counted from 1. Empty for a sound link.
 */
export function linkFindings(plan: LinkPlan): readonly LinkFinding[] {
  const found: LinkFinding[] = [];
  if (plan.segments.length === 0) found.push({ code: 'link.empty', stops: true, params: {} });
  const dark = new Set((plan.darkFibers ?? []).filter((f) => f <= plan.fibers));
  if (dark.size >= plan.fibers) found.push({ code: 'link.all_dark', stops: true, params: {} });
  plan.ends.forEach((end, i) => {
    if (end === 'bare') {
      found.push({ code: 'link.bare_end', stops: true, params: { end: i === 0 ? 'near' : 'far' } });
    }
  });
  plan.segments.forEach((segment, i) => {
    if (segment.kind !== 'cassette' && !(segment.lengthM > 0)) {
      found.push({ code: 'link.no_length', stops: true, params: { segment: i + 1 } });
    }
  });
  const km = plan.segments.reduce((sum, s) => sum + lengthOf(s), 0) / 1000;
  const most = isSingleMode(plan.fiberClass) ? LONGEST_KM.single : LONGEST_KM.multi;
  if (km > most) found.push({ code: 'link.too_long', stops: true, params: { km, most } });
  plan.joints.forEach((joint, i) => found.push(...jointFindings(plan, joint, i)));
  plan.segments.forEach((segment, i) => {
    const wants = CORE_UM[plan.fiberClass];
    if (segment.kind === 'cable' && segment.coreUm !== undefined && segment.coreUm !== wants) {
      const params = { segment: i + 1, coreUm: segment.coreUm, wants };
      found.push({ code: 'link.core_mixed', stops: false, params });
    }
  });
  return found.sort((a, b) => Number(b.stops) - Number(a.stops));
}

const hasPins = (s: LinkSegment): boolean | null => (s.kind === 'cable' ? null : s.pins);

function jointFindings(plan: LinkPlan, joint: LinkJoint, i: number): LinkFinding[] {
  const left = plan.segments[i]!;
  const right = plan.segments[i + 1]!;
  const params = { joint: i + 1 };
  if (joint === 'splice') {
    const fixed = left.kind !== 'cable' || right.kind !== 'cable';
    return fixed ? [{ code: 'link.splice_mpo', stops: true, params }] : [];
  }
  const found: LinkFinding[] = [];
  if (left.polish !== right.polish) found.push({ code: 'link.angled_to_flat', stops: false, params });
  const pins = [hasPins(left), hasPins(right)];
  // Two cassettes back to back join by their single-fiber ports.
  const multi =
    left.kind !== 'cable' &&
    right.kind !== 'cable' &&
    !(left.kind === 'cassette' && right.kind === 'cassette');
  if (multi && pins[0] && pins[1]) found.push({ code: 'link.pins_both', stops: false, params });
  if (multi && pins[0] === false && pins[1] === false)
    found.push({ code: 'link.pins_none', stops: false, params });
  return found;
}

/**
 * The link as the limit sees it: the whole length, every mated pair with both ends, every splice.
 * Error: `loss.bad_link` with the first finding that stops, or where the joints do not fit the segments.
 * Example: two cables joined by a splice between two panels have two mated pairs and one splice.
 */
export function linkUnderTest(plan: LinkPlan, referenceMethod: ReferenceMethod): LinkUnderTest {
  const stopped = linkFindings(plan).find((f) => f.stops);
  if (stopped) throw new DomainError('loss.bad_link', { why: stopped.code });
  if (plan.joints.length !== plan.segments.length - 1)
    throw new DomainError('loss.bad_link', { why: 'joints' });
  const ownFiber = plan.segments.flatMap((s) =>
    s.kind === 'cable' && s.dbPerKm && Object.keys(s.dbPerKm).length > 0
      ? [{ lengthM: s.lengthM, dbPerKm: s.dbPerKm }]
      : [],
  );
  return {
    fiberClass: plan.fiberClass,
    ...(ownFiber.length > 0 ? { ownFiber } : {}),
    lengthM: plan.segments.reduce((sum, s) => sum + lengthOf(s), 0),
    matedPairs: 2 + plan.joints.filter((j) => j === 'connection').length,
    splices: plan.joints.filter((j) => j === 'splice').length,
    referenceMethod,
  };
}
