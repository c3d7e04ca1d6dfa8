import { createPrivateKey, createPublicKey, generateKeyPairSync, sign, verify } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { canonicalJson } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { type DailyHead, headsStore } from './heads.store.ts';
import type { Anchor } from './verify.ts';

interface HeadFile {
  readonly heads: readonly DailyHead[];
  /** Ed25519 (RFC 8032) over the canonical JSON of `heads`, base64. */
  readonly signature: string;
  readonly publicKey: string;
}

/**
 * Keeps the head of every chain that grew since its last one, once a day: as a row, and as a signed file in a folder outside
 * the database, so that who deletes rows and heads alike is found out by the file. Without a folder only the rows.
 */
export const keepDailyHeads = (db: Database, safeDir: string | null, now: Date): Promise<DailyHead[]> =>
  oneAtATime(db, 'heads', 'daily', async (trx) => {
    const store = headsStore(trx);
    const heads = await store.grown(now);
    if (heads.length === 0) return [];
    const signed = safeDir === null ? null : await signedFile(safeDir, heads);
    // The file first: a head that is only in the database shows nothing that the database could not forge.
    if (safeDir !== null && signed)
      await writeWhole(headsFile(safeDir, now), JSON.stringify(signed, null, 2));
    await store.keep(heads, signed?.signature ?? null, now);
    return heads;
  });

/** Named by its instant in UTC: the classes of a file can be on different days. */
const headsFile = (safeDir: string, now: Date): string =>
  path.join(safeDir, 'heads', `${now.toISOString().slice(0, 19).replaceAll(':', '').replace('T', '-')}.json`);

async function writeWhole(file: string, text: string): Promise<void> {
  await mkdir(path.dirname(file), { recursive: true, mode: 0o700 });
  await writeFile(`${file}.part`, text, { mode: 0o600 });
  await rename(`${file}.part`, file);
}

async function signedFile(safeDir: string, heads: readonly DailyHead[]): Promise<HeadFile> {
  const key = createPrivateKey(await keyText(safeDir));
  const publicKey = createPublicKey(key).export({ type: 'spki', format: 'pem' }).toString();
  const signature = sign(null, Buffer.from(canonicalJson(heads)), key).toString('base64');
  return { heads, signature, publicKey };
}

async function keyText(safeDir: string): Promise<string> {
  const file = path.join(safeDir, 'heads.key');
  const there = await readFile(file, 'utf8').catch(() => null);
  if (there !== null) return there;
  const { privateKey } = generateKeyPairSync('ed25519');
  const text = privateKey.export({ type: 'pkcs8', format: 'pem' }).toString();
  await mkdir(safeDir, { recursive: true, mode: 0o700 });
  await writeFile(file, text, { mode: 0o600, flag: 'wx' });
  return text;
}

/** Heads that were kept in files, of those whose signature holds; and the files where it does not. */
export async function anchorsInFiles(
  safeDir: string | null,
): Promise<{ anchors: Anchor[]; forged: string[] }> {
  const folder = safeDir === null ? null : path.join(safeDir, 'heads');
  const names = folder === null ? [] : await readdir(folder).catch(() => []);
  const anchors: Anchor[] = [];
  const forged: string[] = [];
  const ours = safeDir === null ? null : await publicKeyOf(safeDir);
  for (const name of names.filter((n) => n.endsWith('.json')).sort()) {
    const file = await headFile(path.join(folder!, name));
    if (!file || ours === null || !holds(file, ours)) forged.push(name);
    else anchors.push(...file.heads.map((h) => ({ ...h, from: `head of ${h.day}` })));
  }
  return { anchors, forged };
}

async function headFile(file: string): Promise<HeadFile | null> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as HeadFile;
  } catch {
    return null;
  }
}
async function publicKeyOf(safeDir: string): Promise<string | null> {
  const text = await readFile(path.join(safeDir, 'heads.key'), 'utf8').catch(() => null);
  return text === null
    ? null
    : createPublicKey(createPrivateKey(text)).export({ type: 'spki', format: 'pem' }).toString();
}
function holds({ heads, signature }: HeadFile, publicKey: string): boolean {
  try {
    return verify(
      null,
      Buffer.from(canonicalJson(heads)),
      createPublicKey(publicKey),
      Buffer.from(signature, 'base64'),
    );
  } catch {
    return false;
  }
}

/** Heads that were kept as rows. */
export const anchorsInRows = async (db: Database): Promise<Anchor[]> =>
  (await headsStore(db).kept()).map((h) => ({ ...h, from: `head of ${h.day}` }));
