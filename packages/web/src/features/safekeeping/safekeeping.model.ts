import type { Safekeeping } from '@clear-mark/contract';
import { agoWords } from '../../shared/time-words.ts';

export type Mark = 'good' | 'bad' | 'open';
export interface Fact {
  readonly mark: Mark;
  readonly title: string;
  readonly words: string;
}

const HOUR_MS = 3_600_000;
/** A daily backup may be an hour late; a check of the night as well. */
const LATE_MS = 25 * HOUR_MS;

const ago = (iso: string, now: number): string => {
  const words = agoWords(Date.parse(iso), now);
  return words === 'just now' ? words : `${words} ago`;
};

/** The four things that keep records safe, each good, bad or not there. */
export function factsOf(view: Safekeeping, now: number): Fact[] {
  return [backupFact(view, now), checkFact(view, now), headFact(view), roleFact(view)];
}

function backupFact({ backups, lastGoodBackup }: Safekeeping, now: number): Fact {
  const failed = backups[0]?.failed ?? null;
  if (lastGoodBackup === null) {
    return failed === null
      ? {
          mark: 'open',
          title: 'Backup',
          words: 'This server makes none by itself. ./clear-mark backup FILE writes one.',
        }
      : { mark: 'bad', title: 'Backup', words: `None was ever whole: ${failed}` };
  }
  const late = now - Date.parse(lastGoodBackup) > LATE_MS;
  const words = `The last whole one was made ${ago(lastGoodBackup, now)}.`;
  return {
    mark: late || failed !== null ? 'bad' : 'good',
    title: 'Backup',
    words: failed === null ? words : `${words} The newest failed: ${failed}`,
  };
}

function checkFact({ checks }: Safekeeping, now: number): Fact {
  const [last] = checks;
  if (!last) return { mark: 'open', title: 'Records', words: 'Not checked yet.' };
  const count = last.findings.length;
  const when = `checked ${ago(last.at, now)}`;
  if (count > 0) {
    return {
      mark: 'bad',
      title: 'Records',
      words: `${count} of what was ${when} ${count === 1 ? 'does' : 'do'} not fit. See below.`,
    };
  }
  const late = now - Date.parse(last.at) > LATE_MS;
  return {
    mark: late ? 'bad' : 'good',
    title: 'Records',
    words: `All ${last.revisions} signed records fit their chains, ${when}.`,
  };
}

function headFact({ heads, headsInFiles }: Safekeeping): Fact {
  const [last] = heads;
  const where = headsInFiles ? 'kept as rows and, signed, in files' : 'kept in the database only';
  return last
    ? {
        mark: headsInFiles ? 'good' : 'open',
        title: 'Heads',
        words: `The newest is of ${last.day}, ${where}.`,
      }
    : {
        mark: 'open',
        title: 'Heads',
        words: 'The first is kept when a record is signed and the day’s work is done.',
      };
}

const roleFact = ({ roleIsBound }: Safekeeping): Fact => ({
  mark: roleIsBound ? 'good' : 'bad',
  title: 'Database role',
  words: roleIsBound
    ? 'The application cannot change what is written once, nor switch off what refuses.'
    : 'The application works as the owner of its tables. Give it a role of its own: DATABASE_OWNER_URL.',
});

export function sizeWords(bytes: number): string {
  if (bytes < 1_000_000) return `${Math.max(1, Math.round(bytes / 1000))} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}
