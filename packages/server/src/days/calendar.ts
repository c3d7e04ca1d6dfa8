import type { DayPlanBody } from '@clear-mark/contract';
import ical from 'ical-generator';
import { type DayWords, stepsOf } from './own-days.ts';

/** A planned day as iCalendar (RFC 5545): an event a piece, from its first step to its last, with its steps. Times in `timeOf`'s words. */
export function dayCalendar(
  content: Omit<DayPlanBody, 'version'>,
  words: DayWords,
  {
    name,
    place,
    nameOf,
    timeOf,
  }: {
    readonly name: string;
    readonly place: string;
    readonly nameOf: (personId: string) => string;
    readonly timeOf: (instant: string) => string;
  },
  now: Date,
): string {
  const calendar = ical({ name: `Day plan: ${name}`, prodId: '//Clear Mark//Day plan//EN' });
  const steps = stepsOf(content, words);
  for (const piece of content.pieces) {
    const own = steps.filter((s) => s.pieceId === piece.id);
    const first = own[0];
    if (!first) continue;
    const bench = words.labels.get(content.benches[piece.traineeId] ?? '');
    const end = own.reduce((last, s) => (s.to > last ? s.to : last), first.to);
    calendar.createEvent({
      id: `${piece.id}@clear-mark`,
      stamp: now,
      start: new Date(first.from),
      end: new Date(end),
      summary: `${nameOf(piece.traineeId)}: ${first.title}`,
      location: bench === undefined ? place : `${place}, ${bench}`,
      description: own
        .map((s) => `${timeOf(s.from)} ${s.name}${s.at === null ? '' : `, ${s.at}`}`)
        .join('\n'),
    });
  }
  return calendar.toString();
}
