import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import {
  type Clusters,
  databaseOf,
  MAIN_CLUSTER,
  openDatabase,
  prepareNewSchool,
  prepareRegistry,
  type RegisteredSchool,
  registryStore,
  withDatabase,
} from '@clear-mark/server';
import { restoreBackup, writeBackup } from '../backup.ts';
import { onDatabase } from '../cluster.ts';

/** Where the registry lies, and the clusters that schools lie on; all by addresses of owners and of the application. */
export interface SchoolsAt {
  readonly registryUrl: string;
  readonly clusters: Clusters;
}

const NAME = /^[a-z][a-z0-9-]{0,39}$/;
const HOST = /^(?=.{1,253}$)[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*$/;
/** How long answers that are under way may take before their connections are ended, and how often is looked. */
const LEAVES_MS = 20_000;
const LOOK_MS = 200;

/** Does work on the registry, made where it is missing. */
export async function onRegistry<T>(
  { registryUrl, clusters }: SchoolsAt,
  work: (registry: ReturnType<typeof registryStore>) => Promise<T>,
): Promise<T> {
  const name = new URL(registryUrl).pathname.slice(1);
  await onDatabase(withDatabase(registryUrl, 'postgres'), async (client) => {
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (rowCount === 0) await client.query(`create database ${client.escapeIdentifier(name)}`);
  });
  const db = openDatabase(registryUrl, 2);
  try {
    const main = clusters[MAIN_CLUSTER]!;
    await prepareRegistry(db, roleOf(main.app, main.owner));
    return await work(registryStore(db));
  } finally {
    await db.destroy();
  }
}

/** The application's role where it is another one than the owner. */
const roleOf = (app: string, owner: string): string | null => {
  const role = decodeURIComponent(new URL(app).username);
  return role === decodeURIComponent(new URL(owner).username) ? null : role;
};

export async function schoolOf(at: SchoolsAt, name: string): Promise<RegisteredSchool> {
  const found = (await onRegistry(at, (registry) => registry.all())).find((s) => s.name === name);
  if (!found) throw new Error(`There is no school ${name}. ./clear-mark school list names them.`);
  return found;
}

/**
 * Makes a school with a database of its own; a server that runs opens it within seconds. Gives the one-time code for its first lead.
 * Error: what is wrong with a name, or who has it already; nothing is left behind then.
 */
export async function addSchool(
  at: SchoolsAt,
  { name, hosts, cluster }: Pick<RegisteredSchool, 'name' | 'hosts' | 'cluster'>,
): Promise<string | null> {
  if (!NAME.test(name))
    throw new Error(`${name} is no name: small letters, digits and hyphens, at most 40, a letter first.`);
  if (hosts.length === 0) throw new Error('Give the name that browsers call: --host school.example');
  const wrong = hosts.find((h) => !HOST.test(h));
  if (wrong !== undefined) throw new Error(`${wrong} is no name of a host.`);
  const database = `school_${name.replaceAll('-', '_')}`;
  const school: RegisteredSchool = { name, hosts, cluster, database, open: true };
  const { app, owner } = databaseOf(at.clusters, school);
  return onRegistry(at, async (registry) => {
    for (const other of await registry.all()) {
      if (other.name === name) throw new Error(`There is a school ${name} already.`);
      const taken = hosts.find((h) => other.hosts.includes(h));
      if (taken !== undefined) throw new Error(`${taken} is called by the school ${other.name} already.`);
    }
    const admin = withDatabase(owner, 'postgres');
    await onDatabase(admin, (client) => client.query(`create database "${database}"`));
    try {
      const code = await prepareNewSchool(app, owner);
      await registry.addSchool(school);
      return code;
    } catch (error) {
      await onDatabase(admin, (client) => client.query(`drop database "${database}" with (force)`));
      throw error;
    }
  });
}

export interface Moved {
  readonly revisions: number;
  /** The database that it was in, kept under this name. */
  readonly keptAs: string;
}

/**
 * Takes a school to another cluster: closed meanwhile, so that devices keep what is entered; copied as a backup is, every chain checked
 * there; then called there. What it was in stays, under another name. Error: it is open again where it was.
 */
export async function moveSchool(at: SchoolsAt, name: string, to: string, now: Date): Promise<Moved> {
  const school = await schoolOf(at, name);
  if (school.cluster === to) throw new Error(`${name} is on ${to} already.`);
  const from = databaseOf(at.clusters, school).owner;
  const target = databaseOf(at.clusters, { ...school, cluster: to });
  const admin = withDatabase(from, 'postgres');
  const role = roleOf(databaseOf(at.clusters, school).app, from);
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-move-'));
  return onRegistry(at, async (registry) => {
    await registry.setOpen(name, false);
    try {
      await lockOut(admin, school.database, role);
      const file = path.join(folder, 'school.backup');
      await writeBackup(from, file);
      const urlOf = (database: string): string => withDatabase(target.owner, database);
      const { revisions } = await restoreBackup(urlOf, school.database, file, { over: false, now });
      await registry.setPlace(name, to, school.database);
      await registry.setOpen(name, true);
      return { revisions, keptAs: await renamed(admin, school.database, now) };
    } catch (error) {
      if ((await schoolOf(at, name)).cluster !== to) {
        await letIn(admin, school.database, role);
        await registry.setOpen(name, true);
      }
      throw error;
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
}

/** Nobody connects any more; who is there has time to come to an end. */
async function lockOut(admin: string, database: string, role: string | null): Promise<void> {
  await onDatabase(admin, async (client) => {
    await client.query(`revoke connect on database "${database}" from public`);
    if (role !== null) await client.query(`revoke connect on database "${database}" from "${role}"`);
    const there = async (): Promise<number> =>
      Number(
        (await client.query('select count(*) as n from pg_stat_activity where datname = $1', [database]))
          .rows[0].n,
      );
    const until = Date.now() + LEAVES_MS;
    while ((await there()) > 0 && Date.now() < until) {
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
    await client.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [
      database,
    ]);
  });
}

const letIn = (admin: string, database: string, role: string | null): Promise<void> =>
  onDatabase(admin, async (client) => {
    await client.query(`grant connect on database "${database}" to public`);
    if (role !== null) await client.query(`grant connect on database "${database}" to "${role}"`);
  });

async function renamed(admin: string, database: string, now: Date): Promise<string> {
  const keptAs = `${database}_moved_${now.toISOString().replaceAll(/\D/g, '').slice(0, 14)}`;
  await onDatabase(admin, (client) => client.query(`alter database "${database}" rename to "${keptAs}"`));
  return keptAs;
}
