import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type ArchiveOutlook, MOST_ARCHIVE_BYTES, type Person } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import { classForInstructor } from '../classes/index.ts';
import { type Database, openDatabase } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { openArchive, type OpenArchive } from './archive-zip.ts';
import { makeArchive } from './make-archive.ts';
import { lookAtArchive, takeArchive } from './take-archive.ts';

/** A class of a hundred thousand pieces takes minutes; what takes longer is lost. */
const MOST_MS = 30 * 60_000;

/** `databaseUrl` is of the application's role: archives go over connections of their own, which may take longer. */
export const archivesService = (db: Database, databaseUrl: string, storage: PictureStorage | null) => {
  const onOwnConnection = async <T>(work: (own: Database) => Promise<T>): Promise<T> => {
    const own = openDatabase(databaseUrl, 2, MOST_MS, 0);
    try {
      return await work(own);
    } finally {
      await own.destroy();
    }
  };
  const withArchive = (
    given: Readable,
    work: (own: Database, archive: OpenArchive) => Promise<ArchiveOutlook>,
  ): Promise<ArchiveOutlook> =>
    inFolder(async (folder) => {
      const file = path.join(folder, 'given.zip');
      await pipeline(given, atMost(MOST_ARCHIVE_BYTES), createWriteStream(file));
      const archive = await openArchive(file);
      try {
        return await onOwnConnection((own) => work(own, archive));
      } finally {
        archive.close();
      }
    });
  return {
    /** Makes the archive of a class and has it sent: `send` gets its file, which is gone afterwards. */
    make: async (
      classId: string,
      me: Person,
      now: Date,
      send: (file: string) => Promise<void>,
    ): Promise<void> => {
      const { name } = await classForInstructor(db, classId, me);
      await inFolder(async (folder) => {
        const file = path.join(folder, 'class.zip');
        await onOwnConnection((own) => makeArchive(own, { id: classId, name }, now, file, storage));
        await record(db, { kind: 'export', by: me.id, classId, detail: 'the whole class as an archive' });
        await send(file);
      });
    },
    look: (given: Readable): Promise<ArchiveOutlook> =>
      withArchive(given, (own, archive) => lookAtArchive(own, archive)),
    take: (given: Readable, me: Person): Promise<ArchiveOutlook> =>
      withArchive(given, (own, archive) => takeArchive(own, archive, me)),
  };
};

/** A folder for one file, gone when the work is done. */
async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-archive-'));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function atMost(bytes: number): Transform {
  let seen = 0;
  return new Transform({
    transform(part: Buffer, _, done) {
      seen += part.length;
      if (seen > bytes) done(new AppError('archive.too_large'));
      else done(null, part);
    },
  });
}
