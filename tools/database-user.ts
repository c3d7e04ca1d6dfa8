import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';

export const run = promisify(execFile);

/** Who runs the database: ourselves, or, since it refuses root, the package's own user. */
export const DATABASE_USER = 'postgres';
export const asRoot = (): boolean => process.getuid?.() === 0;

/** Folder of the newest PostgreSQL's programs. Throws when there is none. */
export async function binFolder(): Promise<string> {
  const root = process.env['CLEAR_MARK_POSTGRES_ROOT'] ?? '/usr/lib/postgresql';
  const versions = existsSync(root) ? await readdir(root) : [];
  const newest = versions
    .filter((v) => existsSync(path.join(root, v, 'bin/initdb')))
    .sort((a, b) => Number(b) - Number(a))[0];
  if (newest === undefined) throw new Error('PostgreSQL is not installed; ./clear-mark setup installs it.');
  return path.join(root, newest, 'bin');
}

/** A program with its arguments, as the database's user runs it. */
export const forDatabaseUser = (program: string, args: readonly string[]): [string, string[]] =>
  asRoot() ? ['runuser', ['-u', DATABASE_USER, '--', program, ...args]] : [program, [...args]];

/** Runs a program as the database's user, from a folder that this user can enter; gives what it printed. */
export async function asDatabaseUser(program: string, args: readonly string[]): Promise<string> {
  const [file, all] = forDatabaseUser(program, args);
  const { stdout } = await run(file, all, { cwd: '/', maxBuffer: 64 * 1024 * 1024 });
  return stdout;
}

/** Hands a file or folder to the database's user, where that is another one. */
export async function giveToDatabaseUser(file: string): Promise<void> {
  if (asRoot()) await run('chown', [DATABASE_USER, file]);
}

/** Whether the database's user can write in a folder: it may lie in a home that is closed to others. */
export async function databaseUserCanWrite(folder: string): Promise<boolean> {
  return asDatabaseUser('/usr/bin/test', ['-w', folder]).then(
    () => true,
    () => false,
  );
}
