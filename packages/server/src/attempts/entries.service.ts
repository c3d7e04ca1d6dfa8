import {
  AttemptEntry,
  badTextAt,
  type EntryReceipt,
  type ErrorCode,
  type Person,
} from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { canonicalJson } from '../chain/index.ts';
import { clockOffsetMs } from '../clock/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { codeOf } from '../http/problem.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import { noticesStore } from '../notices/index.ts';
import { attemptContexts } from './attempt-context.ts';
import { entriesStore, type IntakeRow, intakeRow } from './entries.store.ts';
import { entriesIntake } from './intake.ts';
import { MOST_ENTRIES, MOST_OF_TRAINEE, type Taken } from './intake.store.ts';
import { whyPictureRefused } from './measured-value.store.ts';
import { type Params, sourceOf, whyRefused } from './why-refused.ts';

const refused = (id: string, code: ErrorCode, params: Params = {}): EntryReceipt => ({
  id,
  state: 'refused',
  code,
  detail: errorWords(code, params),
});

/** What an entry is compared by when it comes again under the same id. */
const contentOf = (e: AttemptEntry): string =>
  canonicalJson({ ...AttemptEntry.parse({ ...e, at: new Date(e.at).toISOString() }) });

const REFUSALS: Readonly<Partial<Record<Taken['became'], readonly [ErrorCode, Params]>>> = {
  withdrawn: ['attempt.withdrawn', {}],
  no_reference: ['entry.reference_missing', {}],
  not_claimed: ['entry.reading_not_claimed', {}],
  no_target: ['entry.unknown_target', {}],
  full: ['attempt.full', { most: MOST_ENTRIES }],
  full_of_trainee: ['attempt.full', { most: MOST_OF_TRAINEE }],
};

interface Sent {
  readonly index: number;
  readonly entry: AttemptEntry;
  readonly row: IntakeRow;
}

export const entriesService = (db: Database, now: () => Date, stamps: ReadingStamps) => {
  const contexts = attemptContexts(db);
  const intake = entriesIntake(db, now);
  return {
    /**
     * Takes a batch: every entry is accepted, kept beside, refused, or to be sent again later, each on its own and in the
     * order given. Sending a batch again gives the same receipts and changes nothing.
     */
    take: async (raw: readonly unknown[], sentAt: string, me: Person): Promise<EntryReceipt[]> => {
      const receipts: EntryReceipt[] = [];
      const sent: Sent[] = [];
      const offset = clockOffsetMs(sentAt, now());
      const first = new Map<string, Sent>();
      const twice: { index: number; entry: AttemptEntry }[] = [];
      for (const [index, item] of raw.entries()) {
        const read = readEntry(item);
        if ('state' in read) {
          receipts[index] = read;
          continue;
        }
        if (first.has(read.id)) {
          twice.push({ index, entry: read });
          continue;
        }
        const no = await whyNot(read, me, offset);
        if (no) receipts[index] = refused(read.id, no.code, no.params);
        else {
          const row = intakeRow(read, offset, read.authorId === me.id ? null : me.id);
          const one = { index, entry: read, row };
          first.set(read.id, one);
          sent.push(one);
        }
      }
      const taken = await intake.take(sent.map((s) => s.row));
      for (const [i, { index, entry }] of sent.entries()) receipts[index] = receiptOf(entry, taken[i]!);
      for (const { index, entry } of twice) {
        const before = first.get(entry.id)!;
        const same = contentOf(before.entry) === contentOf(entry);
        receipts[index] = same ? receipts[before.index]! : refused(entry.id, 'entry.other_content');
      }
      await settleLate(sent, taken, me);
      return receipts;
    },
  };

  function readEntry(item: unknown): AttemptEntry | EntryReceipt {
    const id = String((item as { id?: unknown } | null)?.id ?? '').slice(0, 100);
    const field = badTextAt(item);
    if (field !== null) return refused(id, 'request.bad_field', { field: 'entry', problem: 'no text' });
    const parsed = AttemptEntry.safeParse(item);
    if (parsed.success) return { ...parsed.data, source: sourceOf(parsed.data) };
    const { code, params } = codeOf(parsed.error);
    return refused(id, code, params);
  }

  async function whyNot(
    entry: AttemptEntry,
    me: Person,
    offsetMs: number,
  ): Promise<{ code: ErrorCode; params: Params } | null> {
    const context = await contexts.attempt(entry.attemptId);
    if (!context) return { code: 'not_found.attempt', params: {} };
    if (!(await contexts.sees(context, me))) return { code: 'auth.not_in_class', params: {} };
    const author = await contexts.author(context, entry.authorId, me);
    const no = whyRefused(entry, { context, author, me, stamps, now: now(), offsetMs });
    return no ?? whyPictureRefused(db, entry);
  }

  /** What came for a signed attempt is kept beside it; and what its author sends again is stood by. */
  async function settleLate(sent: readonly Sent[], taken: readonly Taken[], me: Person): Promise<void> {
    const store = entriesStore(db);
    const late = sent.filter((_, i) => taken[i]!.became === 'late');
    for (const { entry } of late) {
      await store.insertUnmerged(entry, 'attempt.signed');
      await noticesStore(db).raise([entry.attemptId], 'entry_late', entry.id, me.id, now());
    }
    const stoodBy = sent.filter(({ entry }, i) => {
      const { became, there } = taken[i]!;
      return became === 'there' && there?.['deliveredBy'] !== null && entry.authorId === me.id;
    });
    if (stoodBy.length > 0)
      await store.confirm(
        stoodBy.map((s) => s.entry.id),
        me.id,
        now(),
      );
  }
};

function receiptOf(entry: AttemptEntry, taken: Taken): EntryReceipt {
  const { became, seq, there, at, claimedAt, error } = taken;
  const refusal = REFUSALS[became];
  if (refusal) return refused(entry.id, ...refusal);
  switch (became) {
    case 'taken':
      return { id: entry.id, state: 'accepted', seq: seq!, ...(claimedAt === null ? {} : { at: at! }) };
    case 'there':
      return sameAs(entry, there)
        ? { id: entry.id, state: 'accepted', seq: seq! }
        : refused(entry.id, 'entry.other_content');
    case 'late':
    case 'late_again': {
      if (became === 'late_again' && !sameAs(entry, there)) return refused(entry.id, 'entry.other_content');
      const code = 'attempt.signed';
      return { id: entry.id, state: 'unmerged', code, detail: errorWords(code) };
    }
    default: {
      const { code, params } = error instanceof AppError ? error : codeOf(error);
      // What the server itself got wrong is no reason to lose the entry: it stays on the device and comes again.
      if (code === 'server.failed' || code === 'server.busy') {
        return { id: entry.id, state: 'later', code, detail: errorWords(code, params) };
      }
      return refused(entry.id, code, params);
    }
  }
}

function sameAs(entry: AttemptEntry, there: Readonly<Record<string, unknown>> | null): boolean {
  return there !== null && contentOf(there as unknown as AttemptEntry) === contentOf(entry);
}

export type EntriesService = ReturnType<typeof entriesService>;
