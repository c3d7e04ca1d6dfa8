import { createHash } from 'node:crypto';
import type { ArchiveTable } from '@clear-mark/contract/archive';
import yazl from 'yazl';
import { canonicalJson, sha256 } from '../src/chain/index.ts';

export function zipped(parts: ReadonlyMap<string, Buffer>): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [name, bytes] of parts) zip.addBuffer(bytes, name);
  zip.end();
  return new Response(zip.outputStream as never).arrayBuffer().then((b) => Buffer.from(b));
}

/** An archive with some files changed, its head and digests made to fit as whoever forges it would. */
export function forgedFrom(
  files: ReadonlyMap<string, Buffer>,
  changes: Readonly<Record<string, string | Buffer | null>>,
  head: object,
): Promise<Buffer> {
  const parts = new Map(files);
  for (const [name, content] of Object.entries(changes)) {
    if (content === null) parts.delete(name);
    else parts.set(name, Buffer.from(content));
  }
  const { digest: _, ...was } = JSON.parse(files.get('archive.json')!.toString()) as Record<string, unknown>;
  const named = [...parts].filter(([name]) => name !== 'archive.json');
  const now = {
    ...was,
    files: named.map(([name, bytes]) => ({
      name,
      bytes: bytes.length,
      sha256: createHash('sha256').update(bytes).digest('hex'),
    })),
    ...head,
  };
  parts.set('archive.json', Buffer.from(JSON.stringify({ ...now, digest: sha256(canonicalJson(now)) })));
  return zipped(parts);
}

export const fileOf = (table: ArchiveTable): string => `tables/${table}.jsonl`;
export const linesIn = (files: ReadonlyMap<string, Buffer>, table: ArchiveTable): Record<string, unknown>[] =>
  files
    .get(fileOf(table))!
    .toString()
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line) as Record<string, unknown>);
export const textOf = (rows: readonly object[]): string => rows.map((r) => `${JSON.stringify(r)}\n`).join('');
