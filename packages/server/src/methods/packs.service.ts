import { checkPolicy, type MethodSheet, sheetProblems } from '@clear-mark/core';
import { markupAt, MethodPack, PACK_FORMAT, PACK_VERSION, type PackTable } from '@clear-mark/contract/pack';
import { contentOfTable, type PackPreview, type Person } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import type { z } from 'zod';
import { canonicalJson, sha256 } from '../chain/index.ts';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { lockThings } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { tablesStore } from '../tables/index.ts';
import { methodVersion, sheetDigest, versionsStore } from './methods.store.ts';

export interface PackOrder {
  readonly versionIds: readonly string[];
  readonly tableIds: readonly string[];
  readonly title: string;
  readonly author: string;
  readonly licence: string;
  readonly language: string;
}

export const packsService = (db: Database) => ({
  /** The pack as its file: canonical, so that the same order gives the same bytes. */
  make: async (
    { versionIds, tableIds, ...head }: PackOrder,
    me: Pick<Person, 'id'>,
  ): Promise<{ text: string }> => {
    await record(db, { kind: 'export', by: me.id, detail: `method pack: ${head.title}` });
    const ids = [...new Set(versionIds)];
    const found = await Promise.all(ids.map((id) => methodVersion(db, id)));
    const methods = found.map((version) => {
      if (!version) throw new AppError('not_found.method_version');
      return version.sheet;
    });
    const newest = await tablesStore(db).newest();
    const tables = [...new Set(tableIds)].map((id) => {
      const table = newest.find((t) => t.id === id);
      if (!table) throw new AppError('not_found.school_table');
      return { id, version: table.version, table: contentOfTable(table) };
    });
    return { text: packText({ ...head, methods, tables }) };
  },

  preview: async (given: unknown): Promise<PackPreview> => previewOf(db, read(given)),

  /**
   * All of a pack or nothing: a method that is new comes in force, a newer version of one that is here as a draft, what is
   * here already stays as it is.
   */
  take: (given: unknown, me: Pick<Person, 'id'>, now: Date): Promise<PackPreview> =>
    db.transaction(async (trx) => {
      const pack = read(given);
      await lockThings(
        trx,
        'method',
        pack.methods.map((m) => m.id),
      );
      const tables = pack.tables ?? [];
      await lockThings(
        trx,
        'school_table',
        tables.map((t) => t.id),
      );
      const preview = await previewOf(trx, pack);
      const state = { new: 'in_force', next: 'draft' } as const;
      await versionsStore(trx).insertAll(
        preview.methods.flatMap(({ is }, i) =>
          is === 'equal' ? [] : [{ sheet: pack.methods[i]!, state: state[is] }],
        ),
      );
      for (const [i, { is }] of preview.tables.entries()) {
        if (is === 'equal' || is === 'earlier') continue;
        const { id, version, table } = tables[i]!;
        await tablesStore(trx).insert(id, version, table, { retired: false, by: me.id, at: now });
      }
      await record(trx, { kind: 'pack_taken', by: me.id, detail: pack.title });
      return preview;
    }),
});

/** By id, then by version: the same methods are the same bytes, however they were chosen. */
function inOrder(a: MethodSheet, b: MethodSheet): number {
  if (a.id !== b.id) return a.id < b.id ? -1 : 1;
  return a.version - b.version;
}

/** A pack as text, its digest among it. */
export function packText(
  content: Omit<PackOrder, 'versionIds' | 'tableIds'> & {
    readonly methods: readonly MethodSheet[];
    readonly tables?: readonly PackTable[];
  },
): string {
  const methods = [...content.methods].sort(inOrder);
  const { tables = [], ...head } = content;
  const sorted = [...tables].sort((a, b) => (a.id < b.id ? -1 : 1));
  const pack = {
    ...head,
    ...(sorted.length > 0 ? { tables: sorted } : {}),
    methods,
    format: PACK_FORMAT,
    schemaVersion: PACK_VERSION,
  };
  return `${canonicalJson({ ...pack, digest: sha256(canonicalJson(pack)) })}\n`;
}

/** Errors: `pack.*`, with the place where there is one. */
function read(given: unknown): MethodPack {
  const head = given as { format?: unknown; schemaVersion?: unknown } | null;
  if (head === null || typeof head !== 'object' || head.format !== PACK_FORMAT)
    throw new AppError('pack.not_one');
  if (head.schemaVersion !== PACK_VERSION) {
    throw new AppError('pack.other_schema', {
      given: String(head.schemaVersion).slice(0, 20),
      wanted: PACK_VERSION,
    });
  }
  const parsed = MethodPack.safeParse(given);
  if (!parsed.success) throw badField(parsed.error);
  const markup = markupAt(parsed.data);
  if (markup !== null) throw new AppError('pack.markup', { field: markup });
  const { digest, ...rest } = given as MethodPack;
  if (sha256(canonicalJson(rest)) !== digest) throw new AppError('pack.digest');
  const pack = parsed.data;
  const seen = new Set<string>();
  for (const method of pack.methods) {
    if (seen.has(nameOf(method))) throw new AppError('pack.repeated', { name: nameOf(method) });
    seen.add(nameOf(method));
    const [problem] = sheetProblems(method);
    if (problem) {
      const words = errorWords(problem.code, problem.params);
      throw new AppError('pack.not_sound', { name: problem.criterion ?? nameOf(method), problem: words });
    }
  }
  for (const { id, table } of pack.tables ?? []) {
    if (seen.has(id)) throw new AppError('pack.repeated', { name: table.title });
    seen.add(id);
    if (table.kind === 'policy') checkPolicy(table.content.policy);
  }
  return pack;
}

const nameOf = ({ id, version }: MethodSheet): string => `${id}, version ${version}`;

function badField(error: z.ZodError): AppError {
  const issue = error.issues[0]!;
  return new AppError('pack.bad_field', {
    field: issue.path.join('.').slice(0, 200),
    problem: issue.message,
  });
}

async function previewOf(
  db: Database,
  { title, author, licence, language, methods, tables = [] }: MethodPack,
): Promise<PackPreview> {
  const digests = await versionsStore(db).digests([...new Set(methods.map((m) => m.id))]);
  const known = new Set([...digests.keys()].map((key) => key.split(' ')[0]!));
  const previewed = methods.map((method) => {
    const { id: methodId, version } = method;
    const there = digests.get(`${methodId} ${version}`);
    if (there !== undefined && there !== sheetDigest(method)) {
      throw new AppError('pack.changed_version', { name: nameOf(method) });
    }
    const is = there !== undefined ? 'equal' : known.has(methodId) ? 'next' : 'new';
    return { methodId, version, title: method.title, is } as const;
  });
  return { title, author, licence, language, methods: previewed, tables: await tablesPreviewed(db, tables) };
}

async function tablesPreviewed(db: Database, tables: readonly PackTable[]): Promise<PackPreview['tables']> {
  const previewed: PackPreview['tables'] = [];
  for (const { id, version, table } of tables) {
    const there = await tablesStore(db).versions(id);
    const same = there.find((t) => t.version === version);
    const newest = there[0]?.version ?? 0;
    if (
      (same && canonicalJson(contentOfTable(same)) !== canonicalJson(table)) ||
      (there[0] && there[0].kind !== table.kind)
    ) {
      throw new AppError('pack.changed_version', { name: `${table.title}, version ${version}` });
    }
    const is = same ? 'equal' : there.length === 0 ? 'new' : version > newest ? 'next' : 'earlier';
    previewed.push({ id, version, title: table.title, kind: table.kind, is });
  }
  return previewed;
}
