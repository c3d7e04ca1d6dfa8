import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Transform, type Readable } from 'node:stream';
import { finished, pipeline } from 'node:stream/promises';
import {
  ARCHIVE_FORMAT,
  ARCHIVE_HEAD,
  ARCHIVE_SCHEMA,
  ARCHIVE_TABLE_NAMES,
  ARCHIVE_VERSION,
  archiveFileOf,
  type ArchiveHead,
  archiveJsonSchema,
  archivePictureOf,
  type ArchiveTable,
} from '@clear-mark/contract/archive';
import yazl from 'yazl';
import { canonicalJson, sha256 } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { pictureBytes, type PictureStorage } from '../pictures/index.ts';
import { archiveSource } from './archive.store.ts';

type FileOfHead = ArchiveHead['files'][number];
/** Lines of JSON shrink to a tenth at any level; the lowest takes a third of the time. */
const LEVEL = 1;

/** Writes the archive of a class into a file, as of one instant. */
export async function makeArchive(
  db: Database,
  { id, name }: { readonly id: string; readonly name: string },
  now: Date,
  file: string,
  storage: PictureStorage | null = null,
): Promise<void> {
  await db.transaction(
    async (trx) => {
      const source = await archiveSource(trx, id);
      const files: FileOfHead[] = [];
      const zip = new yazl.ZipFile();
      const written = pipeline(zip.outputStream, createWriteStream(file));
      const failed = new Promise<never>((_, reject) => void zip.on('error', reject));
      let reading: Readable | null = null;
      const packed = async (): Promise<void> => {
        for (const table of ARCHIVE_TABLE_NAMES) {
          reading = await source.lines(table);
          reading.once('error', () => (reading = null));
          await addStream(zip, archiveFileOf(table), reading, files, now);
          reading = null;
        }
        for (const { sha256: digest, mediaType } of await source.pictures()) {
          const bytes = (await pictureBytes(trx, storage, digest))!;
          addBytes(zip, archivePictureOf(digest, mediaType), bytes, files, now);
        }
        addBytes(zip, ARCHIVE_SCHEMA, json(archiveJsonSchema()), files, now);
        zip.addBuffer(json(headOf({ id, name }, files, now)), ARCHIVE_HEAD, { mtime: now });
        zip.end();
        await written;
      };
      try {
        await Promise.race([packed(), failed, written]);
      } catch (error) {
        // The connection takes no other question before its rows were read.
        if (reading) await readAway(reading);
        throw error;
      }
    },
    { isolationLevel: 'repeatable read' },
  );
}

const json = (value: unknown): Buffer => Buffer.from(`${JSON.stringify(value, null, 1)}\n`);

function headOf(of: ArchiveHead['class'], files: readonly FileOfHead[], now: Date): ArchiveHead {
  const head = {
    format: ARCHIVE_FORMAT as typeof ARCHIVE_FORMAT,
    schemaVersion: ARCHIVE_VERSION as typeof ARCHIVE_VERSION,
    madeAt: now.toISOString(),
    class: of,
    files: [...files],
  };
  return { ...head, digest: sha256(canonicalJson(head)) };
}

function addBytes(zip: yazl.ZipFile, name: string, bytes: Buffer, files: FileOfHead[], now: Date): void {
  files.push({ name, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') });
  // A picture is packed already: pressing it again would only take time.
  const options = name === ARCHIVE_SCHEMA ? { compressionLevel: LEVEL } : { compress: false };
  zip.addBuffer(bytes, name, { mtime: now, ...options });
}

/** One after the other: they come over one connection. */
async function addStream(
  zip: yazl.ZipFile,
  name: string,
  lines: Readable,
  files: FileOfHead[],
  now: Date,
): Promise<void> {
  const hash = createHash('sha256');
  let bytes = 0;
  const counted = new Transform({
    transform(part: Buffer, _, done) {
      hash.update(part);
      bytes += part.length;
      done(null, part);
    },
  });
  lines.on('error', (error) => counted.destroy(error));
  zip.addReadStream(lines.pipe(counted), name, { mtime: now, compressionLevel: LEVEL });
  await finished(counted, { writable: false });
  files.push({ name, bytes, sha256: hash.digest('hex') });
}

async function readAway(lines: Readable): Promise<void> {
  lines.unpipe();
  for await (const _part of lines);
}

/** What each table of a class would be in an archive made now: SHA-256 by table. */
export const tableDigests = (
  db: Database,
  classId: string,
  tables: readonly ArchiveTable[],
): Promise<Map<ArchiveTable, string>> =>
  db.transaction(
    async (trx) => {
      const source = await archiveSource(trx, classId);
      const digests = new Map<ArchiveTable, string>();
      for (const table of tables) {
        const hash = createHash('sha256');
        for await (const part of await source.lines(table)) hash.update(part as Buffer);
        digests.set(table, hash.digest('hex'));
      }
      return digests;
    },
    { isolationLevel: 'repeatable read' },
  );
