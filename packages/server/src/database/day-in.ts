/** The day of a column of instants in a zone, as YYYY-MM-DD; the zone is a binding, or the name of a column. */
export const dayOf = (column: string, zone = '?'): string =>
  `to_char(${column} at time zone ${zone}, 'YYYY-MM-DD')`;

/** That an instant lies on or after the beginning of a day in a zone. Bindings: the day, the zone. */
export const fromDay = (column: string): string => `${column} >= ?::date::timestamp at time zone ?`;

/** That an instant lies before the end of a day in a zone. Bindings: the day, the zone. */
export const untilDay = (column: string): string => `${column} < (?::date + 1)::timestamp at time zone ?`;
