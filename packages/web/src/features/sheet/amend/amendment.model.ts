import { type Criterion, type Entry, type MethodSheet, standingIds } from '@clear-mark/core';
import type { AmendedEntry, LateEntry, Revision, StoredEntry } from '@clear-mark/contract';
import { entryWords, partWords } from '../entry-words.ts';
import { listCriteria, standingEntry } from '../sheet.model.ts';

/** One place of a sheet that says something else than before. */
export interface Change {
  /** What it came by: an entry's id. */
  readonly id: string;
  readonly label: string;
  readonly was: string;
  readonly now: string;
}

/** A late entry as it would stand, were it taken now: it supersedes what is there. */
export const asTaken = (
  { authorName: _, receivedAt: _at, ...late }: LateEntry,
  there: readonly Entry[],
): Entry => ({
  ...late,
  supersedes:
    late.criterionId === null || late.kind === 'note' || late.kind === 'retract'
      ? late.supersedes
      : [...new Set([...late.supersedes, ...standingIds(there, late.criterionId, late.part)])],
});

/** Entries with the late ones that are taken behind them. */
export const withLate = (
  stored: readonly StoredEntry[],
  late: readonly LateEntry[],
  taken: ReadonlySet<string>,
): Entry[] =>
  late
    .filter((e) => taken.has(e.id))
    .reduce<Entry[]>((there, e) => [...there, asTaken(e, there)], [...stored]);

/** What each of some entries says against what stood before them, the last of a place once. */
export function changesOf(sheet: MethodSheet, before: readonly Entry[], added: readonly Entry[]): Change[] {
  const criteria = new Map(listCriteria(sheet).map((c) => [c.criterion.id, c.criterion]));
  const last = new Map<string, Entry>();
  for (const e of added) {
    if (e.criterionId !== null && e.kind !== 'note') last.set(`${e.criterionId} ${e.part}`, e);
  }
  return [...last.values()].flatMap((e) => {
    const criterion = criteria.get(e.criterionId!);
    if (!criterion) return [];
    const stood = standingEntry(before, criterion.id, e.part);
    return [
      {
        id: e.id,
        label: e.part === '' ? criterion.label : `${criterion.label}, ${partWords(e.part)}`,
        was: saidBy(stood, criterion),
        now: saidBy(e, criterion),
      },
    ];
  });
}
const saidBy = (entry: Entry | null, criterion: Criterion): string =>
  entry === null ? 'no result' : entryWords(entry, criterion);

/** What a revision changed: the entries that came with it, against those before. Empty for the first. */
export function revisionChanges(
  sheet: MethodSheet,
  entries: readonly StoredEntry[],
  revisions: readonly Revision[],
  revision: Revision,
): Change[] {
  const before = revisions.find((r) => r.revision === revision.revision - 1);
  if (!before || before.lastSeq === null || revision.lastSeq === null) return [];
  return changesOf(sheet, entries.slice(0, before.lastSeq), entries.slice(before.lastSeq, revision.lastSeq));
}

/** An entry of an amendment as it is sent. */
export const asSent = ({ id, kind, criterionId, part, value, note, targetId }: Entry): AmendedEntry =>
  ({ id, kind, criterionId, part, value, note, targetId }) as AmendedEntry;
