import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { ROOT, WEB_DIR } from './paths.ts';

const SOURCES = ['core', 'contract', 'words', 'methods', 'web'].map((name) => `packages/${name}`);

async function filesUnder(folder: string): Promise<string[]> {
  const found: string[] = [];
  for (const entry of await readdir(folder, { withFileTypes: true })) {
    if (entry.name === 'node_modules' || entry.name === 'dist') continue;
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) found.push(...(await filesUnder(full)));
    else found.push(full);
  }
  return found.sort();
}

/** Digest of everything that the built web application is made from. */
async function sourceDigest(): Promise<string> {
  const digest = createHash('sha256');
  const files = [path.join(ROOT, 'package-lock.json')];
  for (const folder of SOURCES) files.push(...(await filesUnder(path.join(ROOT, folder))));
  for (const file of files) digest.update(file).update(await readFile(file));
  return digest.digest('hex');
}

/** Builds the web application when its sources changed since the last build. */
export async function buildWeb(say: (line: string) => void): Promise<string> {
  const stamp = path.join(WEB_DIR, '.sources');
  const digest = await sourceDigest();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return WEB_DIR;
  say('Building the web application');
  const { build } = await import('vite');
  await build({ root: path.join(ROOT, 'packages/web'), logLevel: 'warn' });
  writeFileSync(stamp, digest);
  return WEB_DIR;
}
