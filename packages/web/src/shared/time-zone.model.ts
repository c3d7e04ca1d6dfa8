/** A zone as it is chosen: its name of the IANA database, and its words. */
export interface ZoneChoice {
  readonly value: string;
  readonly label: string;
}

/** How far a zone is ahead of UTC on a day, such as `UTC+05:30`. */
export function aheadOfUtc(zone: string, at: Date): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    timeZoneName: 'longOffset',
  }).formatToParts(at);
  const said = parts.find((p) => p.type === 'timeZoneName')?.value ?? 'GMT';
  return /^GMT(\+00:00)?$/.test(said) ? 'UTC' : said.replace('GMT', 'UTC');
}

/** Every zone that this device knows, by name; what is searched is the name with spaces and the distance to UTC. */
export function zoneChoices(
  at: Date,
  inUse = '',
  zones: readonly string[] = Intl.supportedValuesOf('timeZone'),
): ZoneChoice[] {
  // Its own names, UTC, and the one in use, which another device may call otherwise.
  const all = [...new Set([...zones, 'UTC', ...(inUse === '' ? [] : [inUse])])];
  return all.map((zone) => ({
    value: zone,
    label: `${zone.replaceAll('_', ' ')} (${aheadOfUtc(zone, at)})`,
  }));
}
