import type { Away, DayWanted, FixedStep, Oven, PieceWanted } from './types.ts';

/** A day as it is kept: hours in instants (ISO 8601), the things of each kind of station, and who watches. */
export interface KeptDay {
  readonly hours: readonly { readonly from: string; readonly to: string }[];
  readonly stations: Readonly<Record<string, readonly string[]>>;
  readonly ovens: readonly Oven[];
  readonly instructors: readonly string[];
  readonly pieces: readonly PieceWanted[];
  readonly away: readonly Away[];
}

/**
 * A day as it is planned: minutes count from when the first of its hours began, as they pass, so that clocks put forward or back change
 * nothing of how long anything takes.
 */
export function dayWanted(
  day: KeptDay,
  more: { fixed?: readonly FixedStep[]; notBefore?: number } = {},
): DayWanted {
  const { ovens, pieces, away } = day;
  return {
    hours: day.hours.map((h) => ({ from: minuteOf(day, h.from), to: minuteOf(day, h.to) })),
    stations: Object.fromEntries(Object.entries(day.stations).map(([kind, ids]) => [kind, ids.length])),
    ovens,
    instructors: day.instructors.length,
    pieces,
    away,
    ...more,
  };
}

/** The minute of a day in which an instant lies; negative before the day begins. */
export const minuteOf = ({ hours }: Pick<KeptDay, 'hours'>, instant: string): number =>
  Math.round((Date.parse(instant) - Date.parse(hours[0]!.from)) / 60_000);
/** The instant (ISO 8601) of a minute of a day. */
export const instantOf = ({ hours }: Pick<KeptDay, 'hours'>, minute: number): string =>
  new Date(Date.parse(hours[0]!.from) + minute * 60_000).toISOString();
