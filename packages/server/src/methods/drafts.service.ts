import {
  copySheet,
  emptySheet,
  isOwnMethod,
  isSame,
  mergeSheets,
  OWN_METHODS,
  type MethodSheet,
  readyProblems,
} from '@clear-mark/core';
import { MethodSheetShape } from '@clear-mark/contract/sheet';
import type { MethodDraft, MethodDraftHead, MethodVersion, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { createOnce } from '../database/create-once.ts';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { lockThing, oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { type StoredDraft, draftsStore } from './drafts.store.ts';
import { methodVersion, versionsStore } from './methods.store.ts';

/** Drafts at the same time in one school. */
const MOST_DRAFTS = 100;

export interface NewDraft {
  readonly id: string;
  readonly from: string | null;
  readonly as: 'new_method' | 'next_version';
  readonly title: string;
}

export const draftsService = (db: Database) => ({
  open: (): Promise<MethodDraftHead[]> => draftsStore(db).open(),

  byId: async (id: string): Promise<MethodDraft> => plain(await found(db, id)),

  /** The same draft asked for twice is one draft. */
  add: (asked: NewDraft, me: Person, now: Date): Promise<MethodDraft> =>
    createOnce(
      () => db.transaction((trx) => begin(trx, asked, me, now)),
      () => draftsStore(db).byId(asked.id),
      (there) => there.basedOn === asked.from,
    ).then(plain),

  /**
   * Saves what was edited from a revision. Where somebody else saved meanwhile both are put together, step by step. Errors:
   * `versions.edited_twice` where both changed the same, `method.draft_moved` where what both began from is not kept.
   */
  save: (id: string, revision: number, sheet: MethodSheet, me: Person, now: Date): Promise<MethodDraft> =>
    oneAtATime(db, 'draft', id, async (trx) => {
      const store = draftsStore(trx);
      const there = await openOne(trx, id);
      const next = { ...sheet, id: there.methodId, version: there.version };
      if (isSame(there.sheet, next)) return plain(there);
      const merged = there.revision === revision ? next : await together(trx, there, revision, next);
      await store.save(id, { revision: there.revision + 1, sheet: merged, by: me.id, at: now });
      return plain(await found(trx, id));
    }),

  discard: (id: string, now: Date): Promise<void> =>
    oneAtATime(db, 'draft', id, async (trx) => {
      await openOne(trx, id);
      await draftsStore(trx).close(id, now, null);
    }),

  /**
   * Makes a version of a draft, in force from now on: classes that used an earlier version of the method use this one, and the
   * class that is named; earlier versions retire. Pieces that are open stay on the version that they were begun by.
   */
  publish: (
    id: string,
    { revision, classId }: { readonly revision: number; readonly classId: string | null },
    me: Person,
    now: Date,
  ): Promise<MethodVersion> =>
    oneAtATime(db, 'draft', id, async (trx) => {
      const there = await openOne(trx, id);
      if (there.revision !== revision) throw new AppError('method.draft_moved');
      await lockThing(trx, 'method', there.methodId);
      const versions = versionsStore(trx);
      const earlier = await versions.ofMethod(there.methodId);
      const version = 1 + Math.max(0, ...earlier.map((v) => v.version));
      const sheet = complete({ ...there.sheet, id: there.methodId, version });
      const versionId = v7();
      await versions.insert(versionId, sheet, 'in_force');
      await versions.replaceInClasses(
        versionId,
        earlier.map((v) => v.id),
        classId,
      );
      await versions.retire(earlier.filter((v) => v.state !== 'retired').map((v) => v.id));
      await draftsStore(trx).close(id, now, versionId);
      await record(trx, {
        kind: 'method_published',
        by: me.id,
        detail: `${sheet.title}, version ${version}`,
      });
      return (await methodVersion(trx, versionId))!;
    }),
});

async function begin(trx: Database, asked: NewDraft, me: Person, now: Date): Promise<StoredDraft> {
  await lockThing(trx, 'method', OWN_METHODS);
  const store = draftsStore(trx);
  if ((await store.openOnes()) >= MOST_DRAFTS)
    throw new AppError('method.too_many_drafts', { most: MOST_DRAFTS });
  const sheet = await firstSheet(trx, asked);
  const { id: methodId, version } = sheet;
  await store.insert(
    { id: asked.id, methodId, version, basedOn: asked.from },
    { revision: 1, sheet, by: me.id, at: now },
  );
  return found(trx, asked.id);
}

async function firstSheet(trx: Database, { id, from, as, title }: NewDraft): Promise<MethodSheet> {
  const version = from === null ? null : await methodVersion(trx, from);
  if (from !== null && !version) throw new AppError('not_found.method_version');
  if (version && as === 'next_version') {
    if (!isOwnMethod(version.methodId)) throw new AppError('method.shipped');
    const versions = await versionsStore(trx).ofMethod(version.methodId);
    return { ...version.sheet, title, version: 1 + Math.max(...versions.map((v) => v.version)) };
  }
  const methodId = `${OWN_METHODS}${nameOf(title)}-${id.replaceAll('-', '').slice(-8)}`;
  return version ? copySheet(version.sheet, methodId, title) : emptySheet(methodId, title);
}

/** A title as part of an id: small Latin letters and digits, the rest a dash. */
function nameOf(title: string): string {
  const plainText = title.normalize('NFKD').toLowerCase();
  return (
    plainText
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-|-$/g, '')
      .slice(0, 40) || 'method'
  );
}

async function together(
  trx: Database,
  there: StoredDraft,
  revision: number,
  mine: MethodSheet,
): Promise<MethodSheet> {
  const base = await draftsStore(trx).at(there.id, revision);
  if (!base) throw new AppError('method.draft_moved');
  return mergeSheets(base, mine, there.sheet);
}

/** The draft as a version's sheet. Error: `method.not_complete` with how much is left to do. */
function complete(draft: MethodSheet): MethodSheet {
  const left = readyProblems(draft).filter((p) => p.blocks).length;
  const read = MethodSheetShape.safeParse(draft);
  if (left > 0 || !read.success) {
    throw new AppError('method.not_complete', { count: Math.max(left, read.error?.issues.length ?? 0) });
  }
  return read.data;
}

async function found(trx: Database, id: string): Promise<StoredDraft> {
  const draft = await draftsStore(trx).byId(id);
  if (!draft) throw new AppError('not_found.method_draft');
  return draft;
}

async function openOne(trx: Database, id: string): Promise<StoredDraft> {
  const draft = await found(trx, id);
  if (draft.closed) throw new AppError('method.draft_closed');
  return draft;
}

const plain = ({ closed: _closed, ...draft }: StoredDraft): MethodDraft => draft;
