import { createHmac, timingSafeEqual } from 'node:crypto';
import type { EntryValue, InstrumentStamp } from '@clear-mark/core';
import type { InstrumentEvent } from '@clear-mark/contract';

/** Proof that this server gave a reading out, on the class, the instrument, its number, its instant and what it showed. */
export interface ReadingStamps {
  /** What a reading showed as text, and its token; null for what is no reading. */
  readonly of: (classId: string, event: InstrumentEvent) => { shows: string; token: string } | null;
  /** Whether a value that carries a stamp is what the reading under it showed. */
  readonly gaveOut: (classId: string, stamp: InstrumentStamp, value: EntryValue) => boolean;
}

/**
 * Stamps by HMAC-SHA-256 (RFC 2104) under a key of the whole school, so that a reading can be told from an invented one
 * by every server process, after a restart too, without keeping the readings that nobody took.
 */
export function readingStamps(secret: string): ReadingStamps {
  const key = createHmac('sha256', secret).update('instrument readings').digest();
  const tokenOf = (classId: string, thingId: string, seq: number, at: string, shows: string): string =>
    createHmac('sha256', key).update([classId, thingId, seq, at, shows].join('\n')).digest('base64url');
  return {
    of: (classId, event) => {
      const shows = showsOf(event);
      return shows === null
        ? null
        : { shows, token: tokenOf(classId, event.thingId, event.seq, event.at, shows) };
    },
    gaveOut: (classId, stamp, value) => {
      const { shows, token } = stamp;
      if (shows === undefined || token === undefined || !agrees(shows, stamp, value)) return false;
      const given = Buffer.from(token);
      const right = Buffer.from(tokenOf(classId, stamp.thingId, stamp.seq, stamp.at, shows));
      return given.length === right.length && timingSafeEqual(given, right);
    },
  };
}

/** A splicer shows what the last splice gave until the next: its sheet may take it later. */
export const keepsShowing = (stamp: InstrumentStamp): boolean => stamp.shows?.startsWith('splice') ?? false;

/** A reading as one line: its kind, then its words. Null for news of the connection or of a claim. */
function showsOf(event: InstrumentEvent): string | null {
  switch (event.kind) {
    case 'power':
      if (event.state === 'failed') return null;
      return event.state === 'no_light'
        ? `power ${event.wavelengthNm} no_light`
        : `power ${event.wavelengthNm} ${event.text} ${event.unit}`;
    case 'splice':
      return `splice ${[event.leftDeg, event.rightDeg, event.estimateDb].map((x) => x ?? '-').join(' ')}`;
    case 'ports':
    case 'source':
    case 'otdr':
    case 'station':
    case 'claim':
      return null;
    default: {
      const never: never = event;
      return never;
    }
  }
}

function agrees(shows: string, stamp: InstrumentStamp, value: EntryValue): boolean {
  const [kind, ...words] = shows.split(' ');
  if (value.kind !== 'loss' && value.kind !== 'measure') return false;
  if (kind === 'splice') {
    return value.text !== undefined && words.some((w) => w !== '-' && Number(w).toFixed(2) === value.text);
  }
  const [wavelength, text, unit] = words;
  if (Number(wavelength) !== stamp.wavelengthNm) return false;
  if (value.kind === 'loss' && value.noLight === true) return text === 'no_light';
  return value.text === text && value.unit === unit;
}
