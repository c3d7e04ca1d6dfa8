import type { Cause } from '../diagnosis/index.ts';
import { isFail } from '../scoring/index.ts';
import type { PlaceAcross } from './across-wavelengths.ts';
import type { PlannedPlace, TraceAgainstPlan } from './against-plan.ts';

/** What a place of a trace points to, the likeliest first. */
export interface TraceCause {
  readonly atM: number;
  readonly causes: readonly Cause[];
  /** What speaks for the first of them. */
  readonly because:
    | 'end_before_plan'
    | 'loss_reflects'
    | 'loss_only'
    | 'splice_loses'
    | 'unplanned_loss'
    | 'grows'
    | 'nothing_there';
}

/** A clean connector sends back less than this, dB (common practice: 40 and more for a flat polish). */
const DIRTY_DB = -42;

/**
 * What a trace says is wrong with its link, by place: a break where it ends before the plan; dirt where a connection loses too much and
 * sends back much, a bad connection where it only loses; the splice itself; bent fiber where something loses that nobody planned, surely where it grows
 * with the wavelength (common practice). Nothing for a link that is as it should be.
 */
export function traceCauses(plan: TraceAgainstPlan, across: readonly PlaceAcross[] = []): TraceCause[] {
  const grows = (m: number): boolean => across.some((p) => p.bend && Math.abs(p.positionM - m) <= NEAR_M);
  const found: TraceCause[] = [];
  if (plan.breakAtM !== null) {
    found.push({
      atM: plan.breakAtM,
      causes: ['broken_fiber', 'bad_connection'],
      because: 'end_before_plan',
    });
  }
  for (const place of plan.places) found.push(...causesAt(place));
  for (const { positionM, kind } of plan.others) {
    const causes: Cause[] =
      kind === 'reflective' ? ['bad_connection', 'broken_fiber'] : ['bend', 'broken_fiber'];
    found.push({ atM: positionM, causes, because: grows(positionM) ? 'grows' : 'unplanned_loss' });
  }
  return found.sort((a, b) => a.atM - b.atM);
}
const NEAR_M = 3;

function causesAt(place: PlannedPlace): TraceCause[] {
  const atM = place.foundM ?? place.atM;
  if (place.note === 'not_found') return [{ atM, causes: ['bad_connection'], because: 'nothing_there' }];
  if (place.verdict === null || !isFail(place.verdict)) return [];
  if (place.parts.every((p) => p === 'splice')) {
    return [{ atM, causes: ['bad_cleave', 'push_or_arc', 'bend'], because: 'splice_loses' }];
  }
  const isDirty = place.reflectanceDb !== null && place.reflectanceDb > DIRTY_DB;
  return [
    isDirty
      ? { atM, causes: ['dirty_face', 'polish_mismatch', 'bad_connection'], because: 'loss_reflects' }
      : { atM, causes: ['bad_connection', 'dirty_face', 'bend'], because: 'loss_only' },
  ];
}
