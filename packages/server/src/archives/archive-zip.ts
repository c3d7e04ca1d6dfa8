import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { ARCHIVE_HEAD, ARCHIVE_PICTURE, ARCHIVE_SCHEMA } from '@clear-mark/contract/archive';
import yauzl from 'yauzl';
import { AppError } from '../errors/app-error.ts';

/** What an archive may be unpacked, bytes and files, and how many times its size a file may become. */
const MOST_BYTES = 8 * 1024 ** 3;
const MOST_FILES = 200_000;
const MOST_GROWTH = 250;
/** A file this small may grow by any factor. */
const SMALL = 65_536;
/** A line of a table: an outcome with its reasons is a hundredth of it. */
const MOST_LINE = 8 * 1024 ** 2;
const MOST_NAME = 100;
const NAMES = /^(tables\/[a-z_]+\.jsonl|archive\.json|schema\.json)$/;

/** What was read of a file, for comparing with what the head says. */
export interface Read {
  readonly bytes: number;
  readonly sha256: string;
}

export interface OpenArchive {
  readonly names: ReadonlySet<string>;
  /** A file whole. Errors: `archive.too_large` where it is larger than `most` bytes. */
  readonly whole: (name: string, most: number) => Promise<{ bytes: Buffer; read: Read }>;
  /** The lines of a file in groups; what was read of it is the generator's result. */
  readonly lines: (name: string) => AsyncGenerator<string[], Read>;
  readonly close: () => void;
}

/**
 * Opens a ZIP for reading by name: nothing is written under the names that it has, names that no archive has are refused,
 * and so is what would be unpacked to more than it may. Errors: `archive.not_one`, `archive.bad_name`, `archive.too_large`.
 */
export async function openArchive(file: string): Promise<OpenArchive> {
  const zip = await yauzl
    .openPromise(file, { lazyEntries: true, autoClose: false, strictFileNames: true })
    .catch(notOne);
  try {
    const entries = await entriesOf(zip);
    const stream = (name: string): Promise<Readable> => zip.openReadStreamPromise(entries.get(name)!);
    return {
      names: new Set(entries.keys()),
      whole: async (name, most) => {
        if (entries.get(name)!.uncompressedSize > most) throw new AppError('archive.too_large');
        const parts: Buffer[] = [];
        const read = await through(await stream(name), (part) => void parts.push(part));
        return { bytes: Buffer.concat(parts), read };
      },
      lines: async function* (name) {
        return yield* linesOf(await stream(name));
      },
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
}

const notOne = (): never => {
  throw new AppError('archive.not_one');
};

async function entriesOf(zip: yauzl.ZipFile): Promise<Map<string, yauzl.Entry>> {
  const entries = new Map<string, yauzl.Entry>();
  let unpacked = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      const { fileName: name, uncompressedSize: size, compressedSize: packed } = entry;
      const known = NAMES.test(name) || ARCHIVE_PICTURE.test(name);
      if (!known || entries.has(name) || !entry.canDecodeFileData()) throw badName(name);
      unpacked += size;
      const bomb = size > SMALL && size > packed * MOST_GROWTH;
      if (bomb || unpacked > MOST_BYTES || entries.size >= MOST_FILES) {
        throw new AppError('archive.too_large');
      }
      entries.set(name, entry);
    }
  } catch (error) {
    if (error instanceof AppError) throw error;
    // The package names what is wrong with a name, such as a way out of the folder.
    const said = /(?:invalid characters in fileName|invalid relative path|absolute path): (.*)/.exec(
      String(error),
    );
    throw said ? badName(said[1]!) : new AppError('archive.not_one');
  }
  if (!entries.has(ARCHIVE_HEAD) || !entries.has(ARCHIVE_SCHEMA)) throw new AppError('archive.not_one');
  return entries;
}

const badName = (name: string): AppError =>
  new AppError('archive.bad_name', { name: name.replace(/[^\x20-\x7e]/g, '·').slice(0, MOST_NAME) });

/** Errors of a file that is cut off or was changed: its sizes or its checksum do not fit. */
async function through(stream: Readable, take: (part: Buffer) => void): Promise<Read> {
  const hash = createHash('sha256');
  let bytes = 0;
  try {
    for await (const part of stream as AsyncIterable<Buffer>) {
      hash.update(part);
      bytes += part.length;
      take(part);
    }
  } catch {
    throw new AppError('archive.not_one');
  }
  return { bytes, sha256: hash.digest('hex') };
}

async function* linesOf(stream: Readable): AsyncGenerator<string[], Read> {
  const hash = createHash('sha256');
  let bytes = 0;
  let rest: Buffer[] = [];
  let restBytes = 0;
  try {
    for await (const part of stream as AsyncIterable<Buffer>) {
      hash.update(part);
      bytes += part.length;
      const end = part.lastIndexOf(10);
      if (end < 0) {
        rest.push(part);
        restBytes += part.length;
        if (restBytes > MOST_LINE) throw new AppError('archive.too_large');
        continue;
      }
      const lines = Buffer.concat([...rest, part.subarray(0, end)])
        .toString('utf8')
        .split('\n');
      rest = [part.subarray(end + 1)];
      restBytes = part.length - end - 1;
      yield lines;
    }
  } catch (error) {
    throw error instanceof AppError ? error : new AppError('archive.not_one');
  }
  if (restBytes > 0) yield [Buffer.concat(rest).toString('utf8')];
  return { bytes, sha256: hash.digest('hex') };
}
