/** What is left of something that is used up, and what it falls due for. */
export interface ThingUse {
  /** Uses that it has from new, or from its last service on; null for what is not used up. */
  readonly uses: number | null;
  /** Uses that pieces took, corrections included; may be over what there was. */
  readonly used: number;
  /** Uses a day lately; 0 where nobody used it. */
  readonly perDay: number;
  /** Instants in ms: until when it is good unopened, when it was opened, and for how many days it is good from then. */
  readonly expiresMs: number | null;
  readonly openedMs: number | null;
  readonly openedDays: number | null;
  /** When its next calibration or check falls due, ms. */
  readonly dueMs: number | null;
}
export const THING_WARNINGS = [
  'expired',
  'used_up',
  'overdue',
  'expires_soon',
  'runs_out',
  'due_soon',
] as const;
export type ThingWarning = (typeof THING_WARNINGS)[number];
export interface ThingState {
  /** Uses left, never under 0; null for what is not used up. */
  readonly left: number | null;
  /** Days that it lasts at the pace of lately; null where nobody used it, or it is not used up. */
  readonly lastsDays: number | null;
  /** Until when it is good, ms: the earlier of its date and of what it has once opened; null for ever. */
  readonly goodUntilMs: number | null;
  /** The gravest first. */
  readonly warnings: readonly ThingWarning[];
}

const DAY_MS = 86_400_000;
/** Warned so long before it expires, falls due, or runs out at the pace of lately; house. */
const SOON_DAYS = 7;
/** And where no more than this share is left; house. */
const LITTLE = 0.1;

/** What is left of a thing, how long it lasts and what is wrong with it; deterministic in `nowMs`. */
export function thingState(use: ThingUse, nowMs: number): ThingState {
  const left = use.uses === null ? null : Math.max(0, use.uses - use.used);
  const goodUntilMs = goodUntil(use);
  const lastsDays = left === null || use.perDay <= 0 ? null : left / use.perDay;
  const warnings: ThingWarning[] = [];
  if (goodUntilMs !== null && goodUntilMs <= nowMs) warnings.push('expired');
  if (left === 0) warnings.push('used_up');
  if (use.dueMs !== null && use.dueMs <= nowMs) warnings.push('overdue');
  const soon = nowMs + SOON_DAYS * DAY_MS;
  if (goodUntilMs !== null && goodUntilMs > nowMs && goodUntilMs <= soon) warnings.push('expires_soon');
  const isLittle = left !== null && left > 0 && left <= LITTLE * use.uses!;
  if (isLittle || (lastsDays !== null && left! > 0 && lastsDays <= SOON_DAYS)) warnings.push('runs_out');
  if (use.dueMs !== null && use.dueMs > nowMs && use.dueMs <= soon) warnings.push('due_soon');
  return { left, lastsDays, goodUntilMs, warnings };
}

function goodUntil({ expiresMs, openedMs, openedDays }: ThingUse): number | null {
  const opened = openedMs === null || openedDays === null ? null : openedMs + openedDays * DAY_MS;
  if (expiresMs === null) return opened;
  return opened === null ? expiresMs : Math.min(expiresMs, opened);
}
