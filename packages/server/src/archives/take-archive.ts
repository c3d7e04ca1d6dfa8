import type { ArchiveOutlook, Person } from '@clear-mark/contract';
import {
  ARCHIVE_TABLE_NAMES,
  archiveFileOf,
  type ArchiveHead,
  type ArchiveTable,
} from '@clear-mark/contract/archive';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { lockThing } from '../database/locks.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';
import { forgetVersions } from '../methods/index.ts';
import { verifyRecords } from '../safekeeping/index.ts';
import { archiveHere, archiveSink } from './archive.store.ts';
import { OutlookReader } from './archive-outlook.ts';
import type { Row } from './archive-rows.ts';
import type { OpenArchive } from './archive-zip.ts';
import { tableDigests } from './make-archive.ts';
import { type ArchiveReader, headOf, readArchive } from './read-archive.ts';

/** Names may change, and methods in use are a school's own choice. */
const MAY_DIFFER: ReadonlySet<ArchiveTable> = new Set([
  'people',
  'method_versions',
  'class_methods',
  'pictures',
]);
const COMPARED = ARCHIVE_TABLE_NAMES.filter((table) => !MAY_DIFFER.has(table));

/** Reads an archive through and says what taking it in would do. Changes nothing. Errors: `archive.*`. */
export async function lookAtArchive(db: Database, archive: OpenArchive): Promise<ArchiveOutlook> {
  const head = await headOf(archive);
  const here = await archiveHere(db).hasClass(head.class.id);
  const reader = new OutlookReader(db, head, here);
  const counts = await readArchive(archive, head, reader);
  if (here) await requireSame(db, head);
  return reader.outlook(counts);
}

/**
 * Takes the class of an archive in: all of it, or nothing. Its chain of signed records is recomputed, and what is counted is
 * made of it. A class that is here already with the same content is left as it is. Errors: `archive.*`.
 */
export async function takeArchive(db: Database, archive: OpenArchive, me: Person): Promise<ArchiveOutlook> {
  const head = await headOf(archive);
  const versionIds: string[] = [];
  try {
    const taken = await db.transaction(async (trx) => {
      // Of two that are taken in at once the second finds what the first has brought.
      await lockThing(trx, 'archives', 'all');
      if (await archiveHere(trx).hasClass(head.class.id)) return null;
      const outlook = new OutlookReader(trx, head, false);
      const sink = archiveSink(trx, head.class.id);
      try {
        const counts = await readArchive(archive, head, takingReader(outlook, sink));
        await sink.setStates();
        await checked(trx, head.class.id, sink);
        await record(trx, { kind: 'archive_taken', by: me.id, classId: head.class.id });
        return outlook.outlook(counts);
      } finally {
        versionIds.push(...outlook.versions.map((v) => v.id));
        // What is still being written ends before the transaction does.
        await sink.flush().catch(() => undefined);
      }
    });
    return taken ?? (await lookAtArchive(db, archive));
  } catch (error) {
    forgetVersions(versionIds);
    throw inWords(error);
  }
}

/** Errors: `archive.not_sound` where the chain does not hold. */
async function checked(trx: Database, classId: string, sink: ReturnType<typeof archiveSink>): Promise<void> {
  const { findings } = await verifyRecords(trx, [], { classId, layOut: sink.addOutcomes });
  if (findings.length > 0) throw new AppError('archive.not_sound', { count: findings.length });
}

/** Of what the database refuses: an id that is taken here, or a row that has its shape and fits no other. */
function inWords(error: unknown): unknown {
  const state = sqlStateOf(error);
  if (state === null || !/^2[23]/.test(state)) return error;
  const name = (error as { table?: string }).table ?? 'archive.json';
  return state === UNIQUE_VIOLATION
    ? new AppError('archive.other_content', { name })
    : new AppError('archive.broken', { name, line: 0 });
}

/** Errors: `archive.other_content` with the first table that is not as it is here. */
async function requireSame(db: Database, head: ArchiveHead): Promise<void> {
  const said = new Map(head.files.map((f) => [f.name, f.sha256]));
  const there = await tableDigests(db, head.class.id, COMPARED);
  const other = COMPARED.find((table) => there.get(table) !== said.get(archiveFileOf(table)));
  if (other !== undefined) throw new AppError('archive.other_content', { name: other });
}

/** Writes what is read, and people and methods as the outlook has them. */
const takingReader = (outlook: OutlookReader, sink: ReturnType<typeof archiveSink>): ArchiveReader => ({
  whole: async (table, rows) => {
    // One question at a time on the connection.
    await sink.flush();
    await outlook.whole(table, rows);
    switch (table) {
      case 'people':
        return sink.addPeople(await outlook.newPeople());
      case 'method_versions':
        return sink.addVersions(outlook.versions);
      case 'class_methods':
        return sink.addMethods(outlook.methodsOfClass());
      case 'pictures':
        return;
      default:
        return sink.addRows(table, once(rows));
    }
  },
  rows: (table, groups) => sink.addRows(table, groups),
  picture: (row, bytes) => sink.addPicture(row, bytes),
});

async function* once(rows: readonly Row[]): AsyncGenerator<readonly Row[]> {
  yield rows;
}
