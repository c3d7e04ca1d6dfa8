import {
  ARCHIVE_FORMAT,
  ARCHIVE_HEAD,
  ARCHIVE_SCHEMA,
  ARCHIVE_TABLE_NAMES,
  ARCHIVE_VERSION,
  archiveFileOf,
  ArchiveHead,
  archivePictureOf,
  type ArchiveTable,
} from '@clear-mark/contract/archive';
import { MOST_PICTURE_BYTES } from '@clear-mark/contract';
import { canonicalJson, sha256 } from '../chain/index.ts';
import { AppError } from '../errors/app-error.ts';
import { mediaTypeOf } from '../faces/index.ts';
import { type OpenArchive, type Read } from './archive-zip.ts';
import { type Row, rowChecks } from './archive-rows.ts';

const MOST_HEAD = 32 * 1024 ** 2;
const MOST_SCHEMA = 4 * 1024 ** 2;

/** What becomes of an archive while it is read: its small tables whole, the others in groups of rows, and its pictures. */
export interface ArchiveReader {
  /** A table that is needed whole: few rows. */
  readonly whole: (table: ArchiveTable, rows: readonly Row[]) => Promise<void>;
  /** A table in groups of rows, each checked before it is given out. */
  readonly rows: (table: ArchiveTable, groups: AsyncIterable<readonly Row[]>) => Promise<void>;
  readonly picture: (row: Row, bytes: Buffer) => Promise<void>;
}

/** Tables whose rows decide what is done. */
export const WHOLE: ReadonlySet<ArchiveTable> = new Set([
  'people',
  'method_versions',
  'classes',
  'class_members',
  'class_methods',
  'pictures',
]);

/** The head of an archive, after it was held to its files by name. Errors: `archive.*`. */
export async function headOf(archive: OpenArchive): Promise<ArchiveHead> {
  const given = parsed((await archive.whole(ARCHIVE_HEAD, MOST_HEAD)).bytes);
  if (given?.['format'] !== ARCHIVE_FORMAT) throw new AppError('archive.not_one');
  if (given['schemaVersion'] !== ARCHIVE_VERSION) {
    throw new AppError('archive.other_schema', {
      given: String(given['schemaVersion']).slice(0, 20),
      wanted: ARCHIVE_VERSION,
    });
  }
  const shaped = ArchiveHead.safeParse(given);
  if (!shaped.success) {
    const issue = shaped.error.issues[0]!;
    const field = issue.path.join('.').slice(0, 80);
    throw new AppError('archive.bad_line', { name: ARCHIVE_HEAD, line: 1, field, problem: issue.message });
  }
  const { digest, ...rest } = given;
  if (sha256(canonicalJson(rest)) !== digest) throw new AppError('archive.digest', { name: ARCHIVE_HEAD });
  const named = new Set(shaped.data.files.map((f) => f.name));
  const wanted = [ARCHIVE_SCHEMA, ...ARCHIVE_TABLE_NAMES.map(archiveFileOf)];
  const missing = [...wanted, ...named].find((name) => !named.has(name) || !archive.names.has(name));
  const extra = [...archive.names].find((name) => name !== ARCHIVE_HEAD && !named.has(name));
  const wrong = missing ?? extra;
  if (wrong !== undefined || named.size !== shaped.data.files.length) {
    throw new AppError('archive.incomplete', { name: wrong ?? ARCHIVE_HEAD });
  }
  return shaped.data;
}

function parsed(bytes: Buffer): Record<string, unknown> | null {
  try {
    const found: unknown = JSON.parse(bytes.toString('utf8'));
    return found !== null && typeof found === 'object' ? (found as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

/**
 * Reads an archive from end to end, each file held to its digest, each line to its shape and to the rows before it. Gives the
 * number of lines of each table. Errors: `archive.*`, with the file and the line.
 */
export async function readArchive(
  archive: OpenArchive,
  head: ArchiveHead,
  reader: ArchiveReader,
): Promise<ReadonlyMap<ArchiveTable, number>> {
  const files = new Map(head.files.map((f) => [f.name, f]));
  const hold = (name: string, { bytes, sha256: digest }: Read): void => {
    const said = files.get(name)!;
    if (said.bytes !== bytes || said.sha256 !== digest) throw new AppError('archive.digest', { name });
  };
  hold(ARCHIVE_SCHEMA, (await archive.whole(ARCHIVE_SCHEMA, MOST_SCHEMA)).read);
  const checks = rowChecks(head.class.id);
  const counts = new Map<ArchiveTable, number>();
  for (const table of ARCHIVE_TABLE_NAMES) {
    const name = archiveFileOf(table);
    const check = checks.table(table);
    const groups = async function* (): AsyncGenerator<readonly Row[]> {
      const lines = archive.lines(name);
      for (let next = await lines.next(); ; next = await lines.next()) {
        if (next.done) {
          hold(name, next.value);
          counts.set(table, check.end());
          return;
        }
        yield next.value.map(check.row);
      }
    };
    if (WHOLE.has(table)) {
      const rows: Row[] = [];
      for await (const group of groups()) rows.push(...group);
      if (table === 'pictures') await readPictures(archive, rows, hold, reader);
      await reader.whole(table, rows);
    } else {
      await reader.rows(table, groups());
    }
  }
  // Without the head of its chain no record could be checked, and none be signed after them.
  if (counts.get('class_chains') !== 1)
    throw new AppError('archive.broken', { name: 'class_chains', line: 0 });
  const pictures = head.files.filter((f) => f.name.startsWith('pictures/'));
  if (pictures.length !== counts.get('pictures')) {
    throw new AppError('archive.incomplete', { name: 'tables/pictures.jsonl' });
  }
  return counts;
}

async function readPictures(
  archive: OpenArchive,
  rows: readonly Row[],
  hold: (name: string, read: Read) => void,
  reader: ArchiveReader,
): Promise<void> {
  for (const row of rows) {
    const name = archivePictureOf(String(row['sha256']), String(row['media_type']));
    if (!archive.names.has(name)) throw new AppError('archive.incomplete', { name });
    const { bytes, read } = await archive.whole(name, MOST_PICTURE_BYTES);
    hold(name, read);
    // One that was erased is grey, under the digest that it had.
    if (row['erased_at'] === null && read.sha256 !== row['sha256'])
      throw new AppError('archive.digest', { name });
    if (mediaTypeOf(bytes) !== row['media_type']) throw new AppError('archive.digest', { name });
    await reader.picture(row, bytes);
  }
}
