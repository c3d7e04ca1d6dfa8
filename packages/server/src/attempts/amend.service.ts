import { type Entry, score, standingIds } from '@clear-mark/core';
import type { AmendBody, AttemptEntry, LateEntry, Person, Revision } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import { classForInstructor } from '../classes/index.ts';
import { canBe } from '../clock/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { referencesStore } from '../references/index.ts';
import { whyPictureRefused } from './measured-value.store.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import { amendStore } from './amend.store.ts';
import { attemptContexts } from './attempt-context.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';
import { entriesStore, type SequencedEntry } from './entries.store.ts';
import { keepRevision } from './sign.service.ts';
import { type Checks, whyRefused } from './why-refused.ts';

/** Amendments are written at a desk: no device of its own. */
const NO_DEVICE = '00000000-0000-0000-0000-000000000000';

export const amendService = (db: Database, now: () => Date, stamps: ReadingStamps) => ({
  /**
   * Signs a further revision of a signed attempt: late entries that are taken, what is entered anew, all scored again by the
   * same function. The revision before it stays as it is.
   * Errors: `attempt.not_signed`, `amend.moved`, `amend.nothing`, `sign.conflict`, those of a value.
   */
  amend: (attemptId: string, body: AmendBody, me: Person): Promise<Revision> =>
    db.transaction(async (trx) => {
      const attempt = await attemptsStore(trx).lock(attemptId);
      if (!attempt) throw new AppError('not_found.attempt');
      const { policy, timeZone } = await classForInstructor(trx, attempt.classId, me);
      if (attempt.state !== 'signed') throw new AppError('attempt.not_signed');
      const store = amendStore(trx);
      const late = await attemptsStore(trx).late(attemptId);
      if ((await store.newestRevision(attemptId)) !== body.fromRevision || !isAllOf(late, body.late))
        throw new AppError('amend.moved');
      if (late.length === 0 && body.entries.length === 0 && !body.asVoid) throw new AppError('amend.nothing');

      await store.begin(attemptId);
      await addEntries(trx, attempt, taken(late, body), { body, me, stamps, now: now() });
      const revision = body.fromRevision + 1;
      await store.decide(attemptId, revision, body.late);
      const entries = await attemptsStore(trx).entries(attemptId);
      const sheet = await sheetOfAttempt(trx, attempt);
      const outcome = score(sheet, entries, {
        references: await referencesStore(trx).forAttempt(attempt.classId, attemptId, 0),
        final: true,
        marginalPassCounts: policy.marginalPassCounts,
        marginalFailCounts: policy.marginalFailCounts,
        attemptVoid: body.asVoid,
        timeZone,
      });
      if (!body.asVoid && outcome.conflicts.length > 0)
        throw new AppError('sign.conflict', { count: outcome.conflicts.length });
      const { classId, traineeId } = attempt;
      await record(trx, { kind: 'record_amended', by: me.id, person: traineeId, classId });
      const kind = body.asVoid ? 'void' : 'amended';
      return keepRevision(trx, attempt, { outcome, kind, reason: body.reason, me, now: now(), revision });
    }),
});

const isAllOf = (late: readonly LateEntry[], given: AmendBody['late']): boolean =>
  late.length === given.length && late.every((e) => given.some((g) => g.id === e.id));

const taken = (late: readonly LateEntry[], { late: decided }: AmendBody): LateEntry[] =>
  late.filter((e) => decided.some((d) => d.id === e.id && d.take));

interface Amending {
  readonly body: AmendBody;
  readonly me: Person;
  readonly stamps: ReadingStamps;
  readonly now: Date;
}

/** Late entries as they were sent, then those of the amendment: each supersedes what stands at its place. */
async function addEntries(
  trx: Database,
  attempt: AttemptRow,
  late: readonly LateEntry[],
  { body, me, stamps, now }: Amending,
): Promise<void> {
  const there: Entry[] = [...(await attemptsStore(trx).entries(attempt.id))];
  const contexts = attemptContexts(trx);
  const context = (await contexts.attempt(attempt.id))!;
  const checks: Checks = {
    context,
    author: { name: me.name, role: me.role, mayEnter: true },
    me,
    stamps,
    now,
    offsetMs: 0,
  };
  const added: SequencedEntry[] = [];
  const add = (entry: AttemptEntry, deliveredBy: string | null): void => {
    const standing =
      entry.criterionId === null || entry.kind === 'note' || entry.kind === 'retract'
        ? []
        : standingIds(there, entry.criterionId, entry.part);
    const supersedes = [...new Set([...entry.supersedes, ...standing])];
    const sequenced = { ...entry, supersedes, seq: there.length + 1, clockOffsetMs: 0, deliveredBy };
    added.push(sequenced);
    there.push(sequenced);
  };
  for (const { authorName: _, receivedAt: _at, ...entry } of late) {
    const at = canBe(entry.at, context.classBegan, now) ? entry.at : now.toISOString();
    add({ ...entry, at }, entry.authorId === me.id ? null : me.id);
  }
  for (const given of body.entries) {
    const entry: AttemptEntry = {
      ...given,
      attemptId: attempt.id,
      voidReason: null,
      authorId: me.id,
      capacity: 'instructor',
      deviceId: NO_DEVICE,
      source: 'typed',
      at: now.toISOString(),
      supersedes: [],
    };
    const no = whyRefused(entry, checks) ?? (await whyPictureRefused(trx, entry));
    if (no) throw new AppError(no.code, no.params);
    if (entry.targetId !== null && !there.some((e) => e.id === entry.targetId))
      throw new AppError('entry.unknown_target');
    add(entry, null);
  }
  await requireReferences(trx, attempt.classId, added);
  await entriesStore(trx).insert(added);
  if (added.length > 0) await entriesStore(trx).setNextSeq(attempt.id, there.length + 1);
}

/** Error: `entry.reference_missing`. */
async function requireReferences(trx: Database, classId: string, added: readonly Entry[]): Promise<void> {
  const ids = new Set(added.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : [])));
  if ((await amendStore(trx).referencesOfClass(classId, [...ids])) !== ids.size)
    throw new AppError('entry.reference_missing');
}
