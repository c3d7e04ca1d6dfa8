import { type LinkPlan, lossTerms, type LossTerms, linkUnderTest } from '../loss/index.ts';
import { guardedVerdict, type Verdict } from '../scoring/index.ts';
import type { LossRules } from '../sheet/index.ts';
import type { TraceAnalysis, TraceEvent } from './analyse-trace.ts';
import type { LinkLoss } from './link-loss.ts';

export type PlannedPart = 'connection' | 'splice';

/** Why a place of the plan has no verdict, or what is to be known of the one that it has. */
export type PlaceNote =
  /** What a splice loses and what the fibers send back differently may make up for each other: from one end it is not told. */
  | 'too_small_to_see'
  /** A connection sends something back: where nothing is seen, it lies elsewhere or is none. */
  | 'not_found'
  /** It reads as one with its neighbour, and neither can be told alone. */
  | 'not_measured'
  /** A gain is no loss: the mean of both directions tells. */
  | 'gain'
  /** Behind the end of the fiber. */
  | 'behind_end'
  /** It is measured only with a line of a cord on both sides. */
  | 'needs_cord';

/** A place of the plan beside what the trace shows there. */
export interface PlannedPlace {
  /** Where it should lie, metres from the port. */
  readonly atM: number;
  /** Several where they read as one. */
  readonly parts: readonly PlannedPart[];
  readonly foundM: number | null;
  readonly lossDb: number | null;
  readonly uLossDb: number | null;
  readonly limitDb: number;
  readonly reflectanceDb: number | null;
  readonly verdict: Verdict | null;
  readonly note: PlaceNote | null;
}
export interface TraceAgainstPlan {
  readonly places: readonly PlannedPlace[];
  /** Events between both ends of the link that the plan does not have. */
  readonly others: readonly TraceEvent[];
  /** Where the fiber ends before the plan does. */
  readonly breakAtM: number | null;
  readonly lengthM: number | null;
  readonly plannedM: number;
  readonly terms: LossTerms;
  /** Of the whole link, with the expanded uncertainty of its lines (k = 2); null where it is not complete. */
  readonly verdict: Verdict | null;
}

/** As-built lengths are believed to this (common practice). */
const LENGTH_SHARE = 0.02;
const LENGTH_M = 2;
const EXPANDED = 2;

/**
 * The events of a trace beside the plan of its link, whose near end lies at `fromM`. Places closer than `withinM` (such as a pulse), or that
 * the trace shows as one, are one, with their allowances added: two connectors of a cassette are such. Each place takes the nearest event
 * that is left, none of them a ghost. Limits by `rules`. Errors: those of `linkUnderTest` and `lossTerms`.
 */
export function traceAgainstPlan(
  analysis: TraceAnalysis,
  loss: LinkLoss,
  plan: LinkPlan,
  rules: LossRules,
  wavelengthNm: number,
  fromM: number,
  withinM: number,
): TraceAgainstPlan {
  const terms = lossTerms(linkUnderTest(plan, 'one_cord'), rules, wavelengthNm);
  const plannedM = plan.segments.reduce((sum, s) => sum + (s.kind === 'cassette' ? 0 : s.lengthM), 0);
  const real = analysis.events.filter((e) => !e.ghost);
  const end = real.find((e) => e.kind === 'end')?.positionM ?? null;
  const planned = placesOf(plan, fromM, withinM);
  const used = new Set<TraceEvent>();
  const places = planned.map(({ atM, parts }): PlannedPlace => {
    const within = Math.max(withinM, LENGTH_M, LENGTH_SHARE * (atM - fromM));
    const limitDb = parts.reduce((sum, p) => sum + allowance(p, rules), 0);
    const base = { atM, parts, limitDb };
    const event = nearest(
      real.filter((e) => !used.has(e)),
      atM,
      within,
    );
    const nothing = {
      ...base,
      foundM: null,
      lossDb: null,
      uLossDb: null,
      reflectanceDb: null,
      verdict: null,
    };
    if (!event) {
      if (end !== null && end < atM - within) return { ...nothing, note: 'behind_end' };
      if (parts.every((p) => p === 'splice')) return { ...nothing, note: 'too_small_to_see' };
      return { ...nothing, note: 'not_found' };
    }
    used.add(event);
    const group = analysis.joined.find((j) => event.positionM >= j.fromM && event.positionM <= j.toM);
    if (group) for (const e of real) if (e.positionM >= group.fromM && e.positionM <= group.toM) used.add(e);
    const found = { ...base, foundM: event.positionM, reflectanceDb: event.reflectanceDb };
    const measured = group ?? event;
    if (event.kind === 'end')
      return { ...found, lossDb: null, uLossDb: null, verdict: null, note: 'needs_cord' };
    if (measured.lossDb === null || measured.uLossDb === null) {
      return { ...found, lossDb: null, uLossDb: null, verdict: null, note: 'not_measured' };
    }
    const { lossDb, uLossDb } = measured;
    const isGain = lossDb < -EXPANDED * uLossDb;
    const verdict = isGain ? null : guardedVerdict(lossDb, limitDb, EXPANDED * uLossDb);
    return { ...found, lossDb, uLossDb, verdict, note: isGain ? 'gain' : null };
  });
  const farM = fromM + plannedM;
  const slack = Math.max(withinM, LENGTH_M, LENGTH_SHARE * plannedM);
  const breakAtM = end !== null && end < farM - slack ? end : null;
  return {
    places,
    others: real.filter(
      (e) => !used.has(e) && e.kind !== 'end' && e.positionM > fromM - slack && e.positionM < farM + slack,
    ),
    breakAtM,
    lengthM: loss.complete ? loss.toM - loss.fromM : breakAtM === null ? null : breakAtM - fromM,
    plannedM,
    terms,
    verdict:
      loss.complete && loss.lossDb !== null
        ? guardedVerdict(loss.lossDb, terms.limitDb, EXPANDED * loss.uLossDb!)
        : null,
  };
}

const allowance = (part: PlannedPart, rules: LossRules): number =>
  part === 'connection' ? rules.connectionDb.db : rules.spliceDb.db;

/** Both ends and every joint, in order; those that lie together are one. */
function placesOf(plan: LinkPlan, fromM: number, withinM: number): { atM: number; parts: PlannedPart[] }[] {
  const places = [{ atM: fromM, parts: ['connection'] as PlannedPart[] }];
  let atM = fromM;
  plan.segments.forEach((segment, i) => {
    atM += segment.kind === 'cassette' ? 0 : segment.lengthM;
    const part = plan.joints[i] ?? 'connection';
    const last = places.at(-1)!;
    if (atM - last.atM <= withinM) last.parts.push(part);
    else places.push({ atM, parts: [part] });
  });
  return places;
}

const nearest = (events: readonly TraceEvent[], atM: number, withinM: number): TraceEvent | null =>
  events
    .filter((e) => Math.abs(e.positionM - atM) <= withinM)
    .sort((a, b) => Math.abs(a.positionM - atM) - Math.abs(b.positionM - atM))[0] ?? null;
