import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { ROOT, WEB_DIR } from './paths.ts';

const SOURCES = ['core', 'contract', 'words', 'methods', 'paper', 'sim', 'web'].map(
  (name) => `packages/${name}`,
);

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

/** In a process of its own: what building takes of memory is not the server's afterwards. */
function viteBuild(root: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const vite = path.join(ROOT, 'node_modules/vite/bin/vite.js');
    const child = spawn(process.execPath, [vite, 'build', '--logLevel', 'warn'], { cwd: root });
    let said = '';
    child.stdout.on('data', (part: Buffer) => (said += part.toString()));
    child.stderr.on('data', (part: Buffer) => (said += part.toString()));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve() : reject(new Error(`The web application could not be built. ${said.trim()}`)),
    );
  });
}

/** Builds the web application when its sources changed since the last build. */
export async function buildWeb(say: (line: string) => void): Promise<string> {
  const stamp = path.join(WEB_DIR, '.sources');
  const digest = await sourceDigest();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return WEB_DIR;
  say('Building the web application');
  await viteBuild(path.join(ROOT, 'packages/web'));
  writeFileSync(stamp, digest);
  return WEB_DIR;
}
