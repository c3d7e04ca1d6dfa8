import type { Plan, PlanItem } from '@clear-mark/contract';
import { plannedPieces, type Policy } from '@clear-mark/core';
import { consumablesOf, drillFor } from '@clear-mark/methods';
import { skillInText } from '@clear-mark/words';
import ical from 'ical-generator';

const piecesOf = (item: PlanItem, policy: Policy): number =>
  item.pieces ?? plannedPieces(item.standing, item.window, policy).pieces;

/** The plan's sessions as iCalendar (RFC 5545): who trains what, how many pieces, and what to lay out. */
export function planCalendar(
  { items, sessions, drills }: Plan,
  { name, policy }: { name: string; policy: Policy },
  now: Date,
): string {
  const calendar = ical({ name: `Retraining: ${name}`, prodId: '//Clear Mark//Retraining//EN' });
  for (const session of sessions) {
    const own = items.filter((i) => i.sessionId === session.id && i.closedAt === null);
    const start = new Date(session.startsAt);
    const lines = own.map((item) => {
      const pieces = piecesOf(item, policy);
      const drill = drillFor(item.skill, item.behind?.criterionId ?? null, drills);
      return `${item.traineeName}: ${skillInText(item.skill)}, ${item.drill ?? drill.title}, ${pieces} pieces`;
    });
    const needed = consumablesOf(
      own.map((item) => ({
        drill: drillFor(item.skill, item.behind?.criterionId ?? null, drills),
        pieces: piecesOf(item, policy),
      })),
    )
      .filter((c) => c.each > 0)
      .map((c) => `${c.each}${c.unit === '' ? '' : ` ${c.unit}`} ${c.name}`);
    calendar.createEvent({
      id: `${session.id}@clear-mark`,
      stamp: now,
      start,
      end: new Date(start.getTime() + session.minutes * 60_000),
      summary: `Retraining: ${own.length === 0 ? 'nobody yet' : [...new Set(own.map((i) => i.traineeName))].join(', ')}`,
      location: session.place,
      description: [...lines, ...(needed.length > 0 ? [`Lay out: ${needed.join('; ')}`] : [])].join('\n'),
    });
  }
  return calendar.toString();
}
