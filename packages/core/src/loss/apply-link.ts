import type {
  Across,
  ChannelPart,
  Criterion,
  LossRules,
  MethodSheet,
  ReferenceMethod,
} from '../sheet/index.ts';
import { isSingleMode, type LinkPlan, linkUnderTest, wavelengthsOf } from './link-plan.ts';

/** The link that an attempt is made on, as it was described when the attempt began. */
export interface AttemptLink {
  readonly id: string;
  readonly label: string;
  readonly plan: LinkPlan;
  readonly referenceMethod: ReferenceMethod;
  readonly rules: LossRules;
}

const made = new WeakMap<MethodSheet, Map<string, MethodSheet>>();

/**
 * The sheet with its loss limits and its port map worked out for a link of the class instead of the one that the method
 * ships with. Reference method, rules, length, connections and fibers are the link's; points, critical items and all
 * other criteria stay the method's. The same object for the same link, so that limits are worked out once.
 * Error: `loss.bad_link`, as `linkUnderTest`.
 */
export function applyLink(sheet: MethodSheet, link: AttemptLink | null): MethodSheet {
  if (link === null) return sheet;
  const key = JSON.stringify(link);
  const known = made.get(sheet)?.get(key);
  if (known) return known;
  const result: MethodSheet = {
    ...sheet,
    fiberClass: link.plan.fiberClass,
    onLink: { id: link.id, label: link.label },
    steps: sheet.steps.map((step) => ({
      ...step,
      criteria: step.criteria.map((c) => onLink(c, link)),
    })),
  };
  if (!made.has(sheet)) made.set(sheet, new Map());
  made.get(sheet)!.set(key, result);
  return result;
}

function onLink(criterion: Criterion, { plan, referenceMethod, rules }: AttemptLink): Criterion {
  if (criterion.kind === 'map') {
    const parts = channelParts(plan);
    return { ...criterion, ports: plan.fibers, ...(parts.length > 0 ? { parts } : {}) };
  }
  if (criterion.kind !== 'loss') return criterion;
  const { fibers: _, darkFibers: __, ...rest } = criterion;
  const sameKind = isSingleMode(plan.fiberClass) === isSingleMode(criterion.link.fiberClass);
  const dark = plan.darkFibers ?? [];
  const across: Across =
    plan.fibers > 2 ? { fibers: plan.fibers, ...(dark.length > 0 ? { darkFibers: dark } : {}) } : {};
  return {
    ...rest,
    ...across,
    link: linkUnderTest(plan, referenceMethod),
    rules,
    wavelengthsNm: sameKind ? criterion.wavelengthsNm : wavelengthsOf(plan.fiberClass),
  };
}

/** What light passes in a described link, as far as it can change the order of the fibers. */
export function channelParts(plan: LinkPlan): readonly ChannelPart[] {
  return plan.segments.flatMap((segment): ChannelPart[] => {
    if (segment.kind === 'trunk') return [{ kind: 'trunk', type: segment.trunk }];
    return segment.kind === 'cassette' ? [{ kind: 'cassette', turned: segment.turned }] : [];
  });
}
