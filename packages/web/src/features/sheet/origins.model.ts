import type { Entry } from '@clear-mark/core';
import type { StoredEntry } from '@clear-mark/contract';
import { momentWords } from '../../shared/time-words.ts';

export interface Origin {
  readonly delivered: readonly {
    readonly by: string;
    readonly author: string;
    readonly confirmed: boolean;
    /** An instructor's authority is not borrowed: the author is asked to stand by it. */
    readonly awaited: boolean;
  }[];
  /** Times as devices claimed them, in words. */
  readonly claimed: readonly string[];
}

type Known = Entry & Partial<Pick<StoredEntry, 'deliveredBy' | 'confirmed' | 'claimedAt'>>;

const when = (iso: string): string => momentWords(iso, 'full');

/** What is to be said of the origin of some entries; null where all were entered by their author at their time. */
export function originOf(
  entries: readonly Known[],
  nameOf: (personId: string) => string,
  words: (iso: string) => string = when,
): Origin | null {
  const delivered = new Map<string, Origin['delivered'][number]>();
  for (const e of entries) {
    if (e.deliveredBy === undefined) continue;
    const confirmed = e.confirmed ?? false;
    const awaited = e.capacity !== 'trainee' && !confirmed;
    const one = { by: e.deliveredBy, author: nameOf(e.authorId), confirmed, awaited };
    delivered.set(JSON.stringify(one), one);
  }
  const claimed = new Set(entries.flatMap((e) => (e.claimedAt === undefined ? [] : [words(e.claimedAt)])));
  if (delivered.size === 0 && claimed.size === 0) return null;
  return { delivered: [...delivered.values()], claimed: [...claimed] };
}

/** Entries that others handed in for a person and that this person has not confirmed. */
export const toConfirm = (entries: readonly Known[], personId: string): string[] =>
  entries
    .filter((e) => e.deliveredBy !== undefined && e.authorId === personId && !(e.confirmed ?? false))
    .map((e) => e.id);
