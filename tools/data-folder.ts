import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { databaseUserCanWrite, DATABASE_USER, asRoot, giveToDatabaseUser, run } from './database-user.ts';
import { ROOT_ID, STATE, usualDataFolder } from './paths.ts';
import { processesIn } from './process-list.ts';

/** A folder of ours for data that are thrown away: in the checkout, or in the home of the database's user. */
export async function scratchHome(name: string): Promise<string> {
  const home = await scratchFolder(name);
  await bringPassword(home, name);
  return home;
}

/** Earlier versions kept the password apart from the data. */
async function bringPassword(home: string, name: string): Promise<void> {
  const apart = path.join(STATE, `${name}.password`);
  const beside = path.join(home, 'password');
  if (existsSync(apart) && !existsSync(beside) && existsSync(path.join(home, 'data'))) {
    await moveFolder(apart, beside);
  }
}

async function scratchFolder(name: string): Promise<string> {
  const ours = path.join(STATE, 'clusters', name);
  await mkdir(ours, { recursive: true });
  if (!asRoot()) return ours;
  await giveToDatabaseUser(ours);
  if (await databaseUserCanWrite(ours)) return ours;
  await rm(ours, { recursive: true });
  const theirs = path.join(await databaseUsersHome(), `clear-mark-${ROOT_ID}`, name);
  await mkdir(theirs, { recursive: true });
  await run('chown', [DATABASE_USER, path.dirname(theirs), theirs]);
  return theirs;
}

async function databaseUsersHome(): Promise<string> {
  const { stdout } = await run('getent', ['passwd', DATABASE_USER]);
  return stdout.split(':')[5] ?? '/var/lib/postgresql';
}

/** Where real data lay in earlier versions: inside the checkout, where a clean-up deletes them. */
async function earlierHome(): Promise<string | null> {
  const places = [path.join(STATE, 'clusters/real')];
  if (asRoot()) places.push(path.join(await databaseUsersHome(), `clear-mark-${ROOT_ID}`, 'real'));
  return places.find((p) => existsSync(path.join(p, 'data/PG_VERSION'))) ?? null;
}

/** The folder of real data: the given one or the usual one; made when it is not there. */
export async function realHome(given: string | null): Promise<string> {
  const home = path.resolve(given ?? usualDataFolder());
  if (!existsSync(home)) {
    await mkdir(home, { recursive: true, mode: 0o700 });
    await giveToDatabaseUser(home);
  }
  if (!(await databaseUserCanWrite(home))) {
    throw new Error(
      `${home} cannot be written by the database's user (${asRoot() ? DATABASE_USER : 'you'}). Give it that folder, or name another with --data DIR. Nothing was changed.`,
    );
  }
  if (home === (await earlierHome())) await bringPassword(home, 'real');
  return home;
}

/**
 * Refuses to begin anew beside data of an earlier version; moves them when told to. Throws an Error that says where
 * they are and how to go on.
 */
export async function settleEarlierData(home: string, move: boolean): Promise<void> {
  const earlier = await earlierHome();
  if (earlier === home) return;
  if (earlier === null) {
    if (move) throw new Error('There are no data of an earlier version in this checkout to move.');
    return;
  }
  if (existsSync(path.join(home, 'data')) && !move) return;
  if (!move) {
    throw new Error(
      `This school's data still lie in the checkout, in ${earlier}. They are moved to ${home} by: ./clear-mark start --move-data. To leave them there: ./clear-mark start --data ${earlier}. Nothing was changed.`,
    );
  }
  if (existsSync(path.join(home, 'data'))) {
    throw new Error(`${home} holds data already; those in ${earlier} are not moved over them.`);
  }
  if (processesIn(path.join(earlier, 'data')).length > 0) {
    throw new Error(`A database runs in ${earlier}. Stop it first: ./clear-mark stop`);
  }
  await moveFolder(path.join(earlier, 'data'), path.join(home, 'data'));
  const password = [path.join(earlier, 'password'), path.join(STATE, 'real.password')].find(existsSync);
  if (password !== undefined) await moveFolder(password, path.join(home, 'password'));
}

/** A rename; across file systems a whole copy first, and only then the old one goes. */
async function moveFolder(from: string, to: string): Promise<void> {
  try {
    await rename(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
    const half = `${to}.copying`;
    await rm(half, { recursive: true, force: true });
    await run('cp', ['-a', from, half]);
    await rename(half, to);
    await rm(from, { recursive: true });
  }
}

/** What a set-up that was cut off can leave, and what holds no data. */
const NO_DATA = /^(lock|lock\.json|database\.log|lost\+found|run\.json|unfinished-.*)$/;

/**
 * Whether a new database may be made in a folder: only where nothing lies that could be data. Throws an Error that says
 * what is missing and how to get it back.
 */
export async function requireEmpty(home: string): Promise<void> {
  const there = (await readdir(home)).filter((name) => !NO_DATA.test(name));
  const inside = there.includes('data') ? await readdir(path.join(home, 'data')) : [];
  if (inside.length > 0) {
    throw new Error(
      `${path.join(home, 'data')} is not empty and is no whole database: PG_VERSION is missing in it. Nothing was changed. Put the folder back as it was, or restore a backup into an empty folder: ./clear-mark restore FILE --data DIR`,
    );
  }
  const beside = there.filter((name) => name !== 'data');
  if (beside.length > 0) {
    throw new Error(
      `${home} has no database but holds ${beside.sort().join(', ')}: its folder 'data' is missing, or this is a folder of something else. Nothing was changed. Is a disk not mounted? Put 'data' back, restore a backup with ./clear-mark restore FILE --data DIR, or name an empty folder with --data.`,
    );
  }
}

export function passwordMissing(home: string): Error {
  return new Error(
    `The password of the database is missing: ${path.join(home, 'password')}. The data are there and nothing was changed. Put the file back, or set a new password: ./clear-mark new-password --data ${home}`,
  );
}
