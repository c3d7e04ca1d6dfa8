import { createHash } from 'node:crypto';
import {
  applyLink,
  applyPractice,
  type AttemptLink,
  checkSheet,
  type MethodSheet,
  type PracticeChoices,
} from '@clear-mark/core';
import type { MethodVersion } from '@clear-mark/contract';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import { canonicalJson } from '../chain/index.ts';

interface Row {
  readonly id: string;
  readonly method_id: string;
  readonly version: number;
  readonly state: MethodVersion['state'];
  readonly sheet: MethodSheet;
}

/** One object a version in force, so that its compiled limits are worked out once. */
const sheets = new Map<string, MethodVersion>();

export async function methodVersion(db: Database, id: string): Promise<MethodVersion | null> {
  const known = sheets.get(id);
  if (known) return known;
  const row = await db('method_versions')
    .select('id', 'method_id', 'version', 'state', 'sheet')
    .where({ id })
    .first<Row | undefined>();
  if (!row) return null;
  const found: MethodVersion = {
    id: row.id,
    methodId: row.method_id,
    version: row.version,
    state: row.state,
    sheet: checkSheet(row.sheet),
  };
  if (row.state !== 'draft') sheets.set(id, found);
  return found;
}

/** The sheet that an attempt is scored by: its method version, by the practice and on the link that it was started with. */
export async function sheetOfAttempt(
  db: Database,
  attempt: {
    readonly methodVersionId: string;
    readonly schools: PracticeChoices;
    readonly link: AttemptLink | null;
  },
): Promise<MethodSheet> {
  const version = await methodVersion(db, attempt.methodVersionId);
  return applyLink(applyPractice(version!.sheet, attempt.schools), attempt.link);
}

/** Versions that were read within a transaction that was rolled back are not known any more. */
export function forgetVersions(ids: readonly string[]): void {
  for (const id of ids) sheets.delete(id);
}

/** Moves a version from one state to the next; null when it is not in `from` (any more). */
export async function setMethodState(
  db: Database,
  id: string,
  from: MethodVersion['state'],
  to: MethodVersion['state'],
): Promise<MethodVersion | null> {
  const changed = await db('method_versions').where({ id, state: from }).update({ state: to });
  sheets.delete(id);
  return changed === 1 ? methodVersion(db, id) : null;
}

export interface VersionHead {
  readonly id: string;
  readonly methodId: string;
  readonly version: number;
  readonly state: MethodVersion['state'];
  readonly title: string;
  readonly madeAt: string;
}

const rowOf = (id: string, sheet: MethodSheet, state: MethodVersion['state']) => ({
  id,
  method_id: sheet.id,
  version: sheet.version,
  state,
  title: sheet.title,
  sheet: JSON.stringify(sheet),
  digest: sheetDigest(sheet),
});

const HEAD = ['id', 'method_id as methodId', 'version', 'state', 'title', 'made_at as madeAt'] as const;
type HeadRow = Omit<VersionHead, 'madeAt'> & { readonly madeAt: Date };
const headOf = (row: HeadRow): VersionHead => ({ ...row, madeAt: new Date(row.madeAt).toISOString() });

export const versionsStore = (db: Database) => ({
  /** All versions of a method, the newest first. */
  ofMethod: async (methodId: string): Promise<VersionHead[]> => {
    const rows: HeadRow[] = await db('method_versions')
      .where({ method_id: methodId, beside: false })
      .orderBy('version', 'desc')
      .select(...HEAD);
    return rows.map(headOf);
  },

  /** Versions in force, by their titles. */
  published: async (): Promise<VersionHead[]> => {
    const rows: HeadRow[] = await db('method_versions')
      .where({ state: 'in_force' })
      .orderBy(['title', 'version'])
      .select(...HEAD);
    return rows.map(headOf);
  },

  /** Digests of the versions of these methods, by method and version. */
  digests: async (methodIds: readonly string[]): Promise<Map<string, string>> => {
    const rows = await db('method_versions')
      .whereIn('method_id', [...methodIds])
      .andWhere('beside', false)
      .select<{ method_id: string; version: number; digest: string }[]>('method_id', 'version', 'digest');
    return new Map(rows.map((r) => [`${r.method_id} ${r.version}`, r.digest]));
  },

  insert: async (id: string, sheet: MethodSheet, state: MethodVersion['state']): Promise<void> => {
    await db('method_versions').insert(rowOf(id, sheet, state));
  },

  /** All of them by one statement. */
  insertAll: async (
    versions: readonly { readonly sheet: MethodSheet; readonly state: MethodVersion['state'] }[],
  ): Promise<void> => {
    if (versions.length === 0) return;
    await db('method_versions').insert(versions.map(({ sheet, state }) => rowOf(v7(), sheet, state)));
  },

  /** Classes that use one of the earlier versions use this one, and the class that is named. */
  replaceInClasses: async (id: string, earlier: readonly string[], classId: string | null): Promise<void> => {
    const classes: string[] = await db('class_methods')
      .whereIn('method_version_id', [...earlier])
      .andWhere('in_use', true)
      .distinct()
      .pluck('class_id');
    const all = new Set(classId === null ? classes : [...classes, classId]);
    for (const class_id of all) {
      await db('class_methods').insert({ class_id, method_version_id: id, in_use: true });
    }
    await db('class_methods')
      .whereIn('method_version_id', [...earlier])
      .update({ in_use: false });
  },

  retire: async (ids: readonly string[]): Promise<void> => {
    await db('method_versions')
      .whereIn('id', [...ids])
      .update({ state: 'retired' });
    for (const id of ids) sheets.delete(id);
  },
});

/**
 * Brings the shipped library into the database: a method that is new comes in force, a newer version of one
 * that is there arrives as a draft. Nothing in force is replaced.
 */
export async function syncShippedMethods(db: Database): Promise<void> {
  for (const sheet of SHIPPED_METHODS) {
    const there = await db('method_versions').where({ method_id: sheet.id, beside: false }).select('version');
    if (there.some((row: { version: number }) => row.version === sheet.version)) continue;
    await db('method_versions')
      .insert(rowOf(v7(), sheet, there.length === 0 ? 'in_force' : 'draft'))
      .onConflict(db.raw('(method_id, version) where not beside'))
      .ignore();
  }
}

const digests = new WeakMap<MethodSheet, string>();

/** SHA-256 of a sheet's canonical JSON; worked out once for each object. */
export function sheetDigest(sheet: MethodSheet): string {
  const known = digests.get(sheet);
  if (known !== undefined) return known;
  const made = createHash('sha256').update(canonicalJson(sheet)).digest('hex');
  digests.set(sheet, made);
  return made;
}
