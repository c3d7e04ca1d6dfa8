import { checkValue, type Criterion, type MethodSheet } from '@clear-mark/core';
import { AttemptEntry, type EntryReceipt, type ErrorCode, type Person } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { canonicalJson } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../http/app-error.ts';
import { codeOf } from '../http/problem.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { classesStore } from '../classes/index.ts';
import { peopleService } from '../people/index.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';
import { requireSight } from './attempts.service.ts';
import { clockOffsetMs } from '../clock/index.ts';
import { entriesStore, type SequencedEntry } from './entries.store.ts';

type Params = Readonly<Record<string, string | number>>;

const refused = (id: string, code: ErrorCode, params: Params = {}): EntryReceipt => ({
  id,
  state: 'refused',
  code,
  detail: errorWords(code, params),
});

/** What an entry is compared by when it comes again under the same id. */
const contentOf = (e: AttemptEntry): string =>
  canonicalJson({ ...AttemptEntry.parse({ ...e, at: new Date(e.at).toISOString() }) });

export const entriesService = (db: Database) => ({
  /**
   * Takes a batch: every entry is accepted, kept as unmerged or refused on its own, in the order given. Sending
   * a batch again gives the same receipts and changes nothing. Each attempt's entries are one transaction.
   */
  take: async (raw: readonly unknown[], sentAt: string, me: Person, now: Date): Promise<EntryReceipt[]> => {
    const receipts = new Map<number, EntryReceipt>();
    const groups = new Map<string, { index: number; entry: AttemptEntry }[]>();
    raw.forEach((item, index) => {
      const parsed = AttemptEntry.safeParse(item);
      if (!parsed.success) {
        const id = String((item as { id?: unknown } | null)?.id ?? '');
        const { code, params } = codeOf(parsed.error);
        receipts.set(index, refused(id, code, params));
        return;
      }
      const entry = parsed.data;
      const group = groups.get(entry.attemptId);
      if (group) group.push({ index, entry });
      else groups.set(entry.attemptId, [{ index, entry }]);
    });
    const offset = clockOffsetMs(sentAt, now);
    for (const [attemptId, group] of groups) {
      const given = await takeForAttempt(
        db,
        attemptId,
        group.map((g) => g.entry),
        offset,
        me,
      );
      group.forEach(({ index }, i) => receipts.set(index, given[i]!));
    }
    return raw.map((_, index) => receipts.get(index)!);
  },
});

async function takeForAttempt(
  db: Database,
  attemptId: string,
  entries: readonly AttemptEntry[],
  offset: number,
  me: Person,
): Promise<EntryReceipt[]> {
  try {
    return await db.transaction((trx) => takeLocked(trx, attemptId, entries, offset, me));
  } catch (error) {
    if (error instanceof AppError) return entries.map((e) => refused(e.id, error.code, error.params));
    // The same id reached another attempt at the same moment: look again, and it is a duplicate.
    if (sqlStateOf(error) === UNIQUE_VIOLATION) {
      return db.transaction((trx) => takeLocked(trx, attemptId, entries, offset, me));
    }
    throw error;
  }
}

async function takeLocked(
  trx: Database,
  attemptId: string,
  entries: readonly AttemptEntry[],
  offset: number,
  me: Person,
): Promise<EntryReceipt[]> {
  const attempt = await attemptsStore(trx).lock(attemptId);
  if (!attempt) throw new AppError('not_found.attempt');
  await requireSight(trx, attempt, me);
  const sheet = await sheetOfAttempt(trx, attempt);
  const store = entriesStore(trx);
  const ids = entries.flatMap((e) => (e.targetId === null ? [e.id] : [e.id, e.targetId]));
  const stored = await store.byIds(ids);
  const known = new Map(
    stored.map((e) => [e.id, { content: contentOf(e), seq: e.seq, attemptId: e.attemptId }]),
  );
  const references = await store.referenceIds(
    attempt.classId,
    entries.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : [])),
  );
  const criteria = criteriaOf(sheet);
  const authors = await authorsOf(trx, attempt, entries, me);
  const fresh: SequencedEntry[] = [];
  const receipts: EntryReceipt[] = [];
  for (const entry of entries) {
    const there = known.get(entry.id);
    if (there) {
      const same = there.attemptId === attemptId && there.content === contentOf(entry);
      receipts.push(
        same ? { id: entry.id, state: 'accepted', seq: there.seq } : refused(entry.id, 'entry.other_content'),
      );
      continue;
    }
    const problem = whyRefused(entry, { authors, criteria, references, attemptId, known });
    if (problem) {
      receipts.push(refused(entry.id, problem.code, problem.params));
      continue;
    }
    if (attempt.state === 'signed') {
      await store.insertUnmerged(entry, 'attempt.signed');
      receipts.push({
        id: entry.id,
        state: 'unmerged',
        code: 'attempt.signed',
        detail: errorWords('attempt.signed'),
      });
      continue;
    }
    const seq = attempt.nextSeq + fresh.length;
    fresh.push({
      ...entry,
      seq,
      clockOffsetMs: offset,
      deliveredBy: entry.authorId === me.id ? null : me.id,
    });
    known.set(entry.id, { content: contentOf(entry), seq, attemptId });
    receipts.push({ id: entry.id, state: 'accepted', seq });
  }
  if (fresh.length > 0) {
    await store.insert(fresh);
    await store.setNextSeq(attemptId, attempt.nextSeq + fresh.length);
  }
  return receipts;
}

interface Author {
  readonly name: string;
  readonly role: Person['role'];
  readonly mayEnter: boolean;
}

/**
 * The people who may stand as authors of a batch. An instructor may hand in what others left on a shared tablet; it
 * stays theirs, with who delivered it beside. A trainee hands in the own entries only.
 */
async function authorsOf(
  db: Database,
  attempt: AttemptRow,
  entries: readonly AttemptEntry[],
  me: Person,
): Promise<Map<string, Author>> {
  const ids = [...new Set(entries.map((e) => e.authorId))].filter(
    (id) => id === me.id || me.role !== 'trainee',
  );
  const authors = new Map<string, Author>();
  for (const id of ids) {
    const person = id === me.id ? me : await peopleService(db).byId(id);
    if (!person) continue;
    const teaches = (await classesStore(db).memberRole(attempt.classId, id)) === 'instructor';
    const mayEnter = person.role === 'lead' || teaches || attempt.traineeId === id;
    authors.set(id, { name: person.name, role: person.role, mayEnter });
  }
  return authors;
}

const criteriaBySheet = new WeakMap<MethodSheet, ReadonlyMap<string, Criterion>>();

function criteriaOf(sheet: MethodSheet): ReadonlyMap<string, Criterion> {
  const known = criteriaBySheet.get(sheet);
  if (known) return known;
  const made = new Map(sheet.steps.flatMap((s) => s.criteria.map((c) => [c.id, c] as const)));
  criteriaBySheet.set(sheet, made);
  return made;
}

interface Checks {
  readonly authors: ReadonlyMap<string, Author>;
  readonly criteria: ReadonlyMap<string, Criterion>;
  readonly references: ReadonlySet<string>;
  readonly attemptId: string;
  readonly known: ReadonlyMap<string, { attemptId: string }>;
}

/** What an instructor makes of a failure, beside its result: never a trainee's to enter. */
const isJudgement = (kind: string): boolean => kind === 'charge' || kind === 'dismiss';
/** Kinds whose value has a kind of its own. */
const hasOwnValue = (kind: string): boolean => isJudgement(kind) || kind === 'hand' || kind === 'timer';

function whyRefused(entry: AttemptEntry, checks: Checks): { code: ErrorCode; params: Params } | null {
  const no = (code: ErrorCode, params: Params = {}) => ({ code, params });
  const author = checks.authors.get(entry.authorId);
  if (!author) return no('entry.not_author');
  if (!author.mayEnter) return no('entry.author_left', { name: author.name });
  if ((author.role === 'trainee') !== (entry.capacity === 'trainee')) {
    return no('entry.capacity', { role: author.role, capacity: entry.capacity });
  }
  if (entry.kind === 'retract') {
    const target = entry.targetId === null ? undefined : checks.known.get(entry.targetId);
    return target?.attemptId === checks.attemptId ? null : no('entry.unknown_target');
  }
  if (entry.targetId !== null) return no('entry.unknown_target');
  if (entry.kind === 'note' && entry.note === null) return no('entry.value_missing');
  if (entry.criterionId === null) {
    return entry.kind === 'note' ? null : no('entry.unknown_criterion', { criterion: '' });
  }
  const criterion = checks.criteria.get(entry.criterionId);
  if (!criterion) return no('entry.unknown_criterion', { criterion: entry.criterionId });
  const carriesValue = entry.kind === 'value' || hasOwnValue(entry.kind);
  if (carriesValue !== (entry.value !== null)) return no('entry.value_missing');
  if (entry.value !== null) {
    const wanted = hasOwnValue(entry.value.kind) ? entry.value.kind : 'value';
    if (entry.kind !== wanted) return no('value.wrong_kind', { given: entry.value.kind, wanted: entry.kind });
  }
  if (isJudgement(entry.kind) && author.role === 'trainee') {
    return no('entry.capacity', { role: author.role, capacity: entry.kind });
  }
  if (entry.value === null) return null;
  if (entry.value.kind === 'loss' && !checks.references.has(entry.value.referenceId)) {
    return no('entry.reference_missing');
  }
  try {
    checkValue(criterion, entry.part, entry.value);
    return null;
  } catch (error) {
    return codeOf(error);
  }
}
