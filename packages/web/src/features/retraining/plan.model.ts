import type { Plan, PlanItem, PlanItemBody } from '@clear-mark/contract';
import {
  type Consumable,
  type Drill,
  type PiecesAhead,
  piecesAhead,
  plannedPieces,
  type Policy,
  readTyped,
} from '@clear-mark/core';
import { consumablesOf, drillFor } from '@clear-mark/methods';

export interface PlannedItem extends PlanItem {
  readonly drillShown: Drill;
  readonly ahead: PiecesAhead;
  /** Pieces as edited or planned by the evidence. */
  readonly piecesShown: number;
  /** They are a first round, to be looked at again. */
  readonly firstRound: boolean;
  /** Bench minutes as edited, or pieces by the minutes of each. */
  readonly minutesShown: number;
}

type Planning = Pick<Policy, 'passesInARow' | 'window'>;

/** An item with what the evidence foretells, and what an instructor set instead. */
export function planned(item: PlanItem, policy: Planning, drills: Plan['drills']): PlannedItem {
  const shipped = drillFor(item.skill, item.behind?.criterionId ?? null, drills);
  const byEvidence = plannedPieces(item.standing, item.window, policy);
  const pieces = item.pieces ?? byEvidence.pieces;
  return {
    ...item,
    drillShown: item.drill === null ? shipped : { ...shipped, title: item.drill, how: '' },
    ahead: piecesAhead(item.window, policy.passesInARow),
    piecesShown: pieces,
    firstRound: item.pieces === null && byEvidence.firstRound,
    minutesShown: item.minutes ?? Math.ceil(pieces * item.minutesEach),
  };
}

export interface PlanGroup {
  readonly session: Plan['sessions'][number] | null;
  readonly items: readonly PlannedItem[];
  readonly minutes: number;
  readonly consumables: readonly Consumable[];
  /** Minutes over what the session has; 0 where it fits, or where there is none. */
  readonly overMinutes: number;
}

/** The open items by session, those without one first; each with its bench time and what to lay out. */
export function planGroups(plan: Plan, policy: Planning): PlanGroup[] {
  const open = plan.items.filter((i) => i.closedAt === null).map((i) => planned(i, policy, plan.drills));
  const group = (session: PlanGroup['session']): PlanGroup => {
    const items = open.filter((i) => i.sessionId === (session?.id ?? null));
    // Trainees work side by side: a session is as long as the one who has most to do.
    const byTrainee = new Map<string, number>();
    for (const i of items) byTrainee.set(i.traineeId, (byTrainee.get(i.traineeId) ?? 0) + i.minutesShown);
    const minutes = Math.max(0, ...byTrainee.values());
    return {
      session,
      items,
      minutes,
      consumables: consumablesOf(items.map((i) => ({ drill: i.drillShown, pieces: i.piecesShown }))).filter(
        (c) => c.each > 0,
      ),
      overMinutes: session ? Math.max(0, minutes - session.minutes) : 0,
    };
  };
  return [group(null), ...plan.sessions.map(group)].filter((g) => g.session !== null || g.items.length > 0);
}

export const editOf = ({ pieces, minutes, drill, sessionId }: PlanItem): PlanItemBody => ({
  pieces,
  minutes,
  drill,
  sessionId,
});

export const amountWords = ({ each, unit, name }: Consumable): string =>
  unit === '' ? `${each} ${name}` : `${each} ${unit} of ${name}`;

/** A typed whole number within a range; null for nothing, undefined for what is none. */
export function typedWhole(text: string, most: number): number | null | undefined {
  const typed = readTyped(text, { least: 1, most, whole: true });
  if (typed.kind === 'empty') return null;
  return typed.kind === 'number' ? typed.value : undefined;
}
