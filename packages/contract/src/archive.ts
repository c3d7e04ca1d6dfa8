import { z } from 'zod';
import { ARCHIVE_TABLE_NAMES, ARCHIVE_TABLES, type ArchiveTable } from './archive-tables.ts';
import { Id } from './common.ts';
import { Sha256 } from './faces.ts';

export const ARCHIVE_FORMAT = 'clear-mark/class-archive';
export const ARCHIVE_VERSION = 1;
/** What the archive says of itself, and the schema of all its files. */
export const ARCHIVE_HEAD = 'archive.json';
export const ARCHIVE_SCHEMA = 'schema.json';
export const ARCHIVE_SCHEMA_ID = 'clear-mark/class-archive.schema.json';

/** The file of a table: a JSON object a line. */
export const archiveFileOf = (table: ArchiveTable): string => `tables/${table}.jsonl`;
export const archivePictureOf = (sha256: string, mediaType: string): string =>
  `pictures/${sha256}.${mediaType === 'image/png' ? 'png' : 'jpg'}`;
export const ARCHIVE_PICTURE = /^pictures\/([0-9a-f]{64})\.(png|jpg)$/;

/**
 * The head of an archive: which files it has, each with its size in bytes and its SHA-256; `digest` is the SHA-256 of the
 * canonical JSON of all but itself.
 */
export const ArchiveHead = z.strictObject({
  format: z.literal(ARCHIVE_FORMAT),
  schemaVersion: z.literal(ARCHIVE_VERSION),
  madeAt: z.iso.datetime(),
  class: z.strictObject({ id: Id, name: z.string().max(80) }),
  files: z
    .array(
      z.strictObject({
        name: z.string().max(100),
        bytes: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
        sha256: Sha256,
      }),
    )
    .max(200_000),
  digest: Sha256,
});
export type ArchiveHead = z.infer<typeof ArchiveHead>;

/**
 * The published JSON Schema (draft 2020-12) of an archive: `archive.json` under /properties/archive, and a line of each table
 * under /properties with the name of the table.
 */
export function archiveJsonSchema(): Record<string, unknown> {
  const lines = ARCHIVE_TABLE_NAMES.map((name) => {
    const { line, row } = ARCHIVE_TABLES[name];
    return [name, (row as z.ZodType).describe(`A line of ${archiveFileOf(name)}: ${line}`)] as const;
  });
  const parts = z.object({ archive: ArchiveHead, ...Object.fromEntries(lines) });
  return {
    $id: ARCHIVE_SCHEMA_ID,
    title: 'Class archive of Clear Mark',
    ...z.toJSONSchema(parts, { io: 'input', unrepresentable: 'any', reused: 'ref' }),
  };
}

export { ARCHIVE_TABLE_NAMES, ARCHIVE_TABLES, type ArchiveTable } from './archive-tables.ts';
