import dayjs from 'dayjs';
import timezone from 'dayjs/plugin/timezone.js';
import utc from 'dayjs/plugin/utc.js';
import { zoneOfTimes } from './time-words.ts';

dayjs.extend(utc);
dayjs.extend(timezone);

const zone = (): string => zoneOfTimes() ?? dayjs.tz.guess();

/** An instant (ISO 8601) as the clock on the wall of the class shows it: `2026-06-03T14:05`. */
export const wallTime = (instant: string): string => dayjs(instant).tz(zone()).format('YYYY-MM-DDTHH:mm');

/** The instant (ISO 8601, UTC) at which the clock of the class shows this. A time that the clock skips is an hour later. */
export const instantAt = (wall: string): string => dayjs.tz(wall, zone()).toISOString();
