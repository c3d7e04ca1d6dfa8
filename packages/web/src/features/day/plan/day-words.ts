import type { DayChange, PlanFault, WhyLeft } from '@clear-mark/core';
import { isThingKind } from '@clear-mark/core';
import { thingInText } from '@clear-mark/words';

const stationWords = (station: string): string => (isThingKind(station) ? thingInText(station) : station);

/** Why a piece is not planned, and what would help. */
export function whyWords(why: WhyLeft, clock: (minute: number) => string): string {
  switch (why.why) {
    case 'no_oven':
      return `no oven of this day takes connectors ${why.way === 'flat' ? 'lying flat' : 'hanging'}: set one in Stock, and put it into the day`;
    case 'no_station':
      return `it needs a ${stationWords(why.station)}, and none is here: put one into the day`;
    case 'no_instructor':
      return 'nobody is here to watch what decides: put an instructor into the day';
    case 'step_too_long':
      return `one of its steps takes ${why.minutes} minutes, and no part of the day is longer than ${why.longest}: make the parts longer`;
    case 'too_long':
      return `alone it takes ${why.minutes} minutes from end to end, and the day has ${why.hours}: plan it over two days`;
    case 'used_by':
      return `what it glues with is good until ${clock(why.by)} only: open another batch, or begin earlier`;
    case 'no_room':
      return 'the day is full';
    case 'not_planned':
      return 'it came after this plan was made: plan anew';
    default:
      return why satisfies never;
  }
}

/** A change to a day, as an offer. */
export function changeWords(change: DayChange): string {
  switch (change.change) {
    case 'station':
      return `one more ${stationWords(change.station)}`;
    case 'half_hour':
      return 'half an hour longer';
    case 'hour':
      return 'an hour longer';
    case 'oven':
      return 'one more oven';
    case 'instructor':
      return 'one more instructor';
    case 'second_day':
      return 'the rest on a second day';
    case 'shorter_list':
      return `a list shorter by ${change.pieces === 1 ? 'one piece' : `${change.pieces} pieces`}`;
    default:
      return change satisfies never;
  }
}

const FAULTS: Readonly<Record<PlanFault['fault'], string>> = {
  twice: 'a step planned twice',
  missing: 'a step that is not planned',
  unknown: 'a step of no piece',
  order: 'a step before the one that it follows',
  minutes: 'a step that is shorter than it takes',
  hours: 'work in a break or after the day',
  overlap: 'two things at once',
  load_places: 'more in an oven than it holds',
  load_mixed: 'two schedules in one load',
  load_short: 'a cure cut short',
  oven_unknown: 'a load in an oven that is not here',
  too_early: 'a step that is over already',
  not_kept: 'a locked step that was moved',
  used_by: 'glue past its time',
  away: 'somebody or something that is away',
  ends_at: 'another end than is said',
};
/** The conflicts of a plan by kind, with how many there are. */
export function faultLines(faults: readonly PlanFault[]): string[] {
  const counts = new Map<string, number>();
  for (const { fault } of faults) {
    if (fault === 'ends_at') continue;
    counts.set(FAULTS[fault], (counts.get(FAULTS[fault]) ?? 0) + 1);
  }
  return [...counts].map(([words, n]) => (n === 1 ? words : `${words} (${n} times)`));
}
