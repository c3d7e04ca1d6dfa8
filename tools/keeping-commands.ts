import path from 'node:path';
import { parseArgs } from 'node:util';
import {
  bringPicturesBack,
  migrate,
  objectStorage,
  openDatabase,
  readConfig,
  rebuildOutcomes,
  safekeepingService,
  type Database,
} from '@clear-mark/server';
import { findingWords } from '@clear-mark/words';
import { anchorsInBackups, restoreBackup, writeBackup } from './backup.ts';
import { type Cluster, existingCluster, newPassword, startCluster } from './cluster.ts';
import { realHome, scratchHome } from './data-folder.ts';
import { backupsIn, DATABASE, safeIn } from './serve.ts';

interface Where {
  /** Folder of the data; null with a database that was given. */
  readonly home: string | null;
  readonly urlOf: (database: string) => string;
  readonly database: string;
  readonly close: () => Promise<void>;
}
interface Options {
  readonly file: string | null;
  readonly data: string | null;
  readonly demo: boolean;
  readonly over: boolean;
}

const say = (line: string): void => console.log(line);

function readOptions(args: readonly string[], wantsFile: boolean): Options {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { data: { type: 'string' }, demo: { type: 'boolean' }, over: { type: 'boolean' } },
  });
  if (positionals.length !== (wantsFile ? 1 : 0)) {
    throw new Error(
      `${wantsFile ? 'Name one FILE' : 'No file is taken here'}. ./clear-mark help lists the verbs.`,
    );
  }
  const { data = null, demo = false, over = false } = values;
  return { file: positionals[0] ?? null, data, demo, over };
}

/** The database of the demo, of a folder, or the given one; a cluster that did not run is stopped again afterwards. */
async function open({ data, demo }: Options): Promise<Where> {
  const given = process.env['DATABASE_OWNER_URL'] ?? process.env['DATABASE_URL'];
  if (given !== undefined && data === null && !demo) {
    const urlOf = (database: string): string => given.replace(/[^/?]*(?=$|\?)/, database);
    const database = new URL(given).pathname.slice(1);
    return { home: null, urlOf, database, close: () => Promise.resolve() };
  }
  const home = demo ? await scratchHome('demo') : await realHome(data);
  const ran = (await existingCluster(home)) !== null;
  const cluster: Cluster = await startCluster({ home });
  const close = async (): Promise<void> => {
    if (!ran) await cluster.stop();
  };
  return { home, urlOf: cluster.url, database: DATABASE, close };
}

async function within<T>(options: Options, work: (where: Where) => Promise<T>): Promise<T> {
  const where = await open(options);
  try {
    return await work(where);
  } finally {
    await where.close();
  }
}
async function onSchool<T>(where: Where, work: (db: Database) => Promise<T>): Promise<T> {
  const db = openDatabase(where.urlOf(where.database), 2, 600_000);
  try {
    await migrate(db);
    return await work(db);
  } finally {
    await db.destroy();
  }
}

export async function runBackup(args: readonly string[]): Promise<number> {
  const options = readOptions(args, true);
  return within(options, async (where) => {
    const { counts, heads } = await writeBackup(where.urlOf(where.database), options.file!);
    say(`${path.resolve(options.file!)} holds ${words(counts)}, and the heads of ${heads.length} chains.`);
    return 0;
  });
}
const words = (counts: Readonly<Record<string, number>>): string =>
  Object.entries(counts)
    .map(([table, n]) => `${n} ${table.replaceAll('_', ' ')}`)
    .join(', ');

export async function runRestore(args: readonly string[]): Promise<number> {
  const options = readOptions(args, true);
  return within(options, async (where) => {
    const { over } = options;
    const found = await restoreBackup(where.urlOf, where.database, options.file!, { over, now: new Date() });
    say(`Restored from ${found.manifest.madeAt}: ${words(found.manifest.counts)}.`);
    say(`${found.revisions} signed records fit their chains.`);
    if (found.before !== null) say(`What was there before is kept as the database ${found.before}.`);
    if (where.home !== null) say(`The data are in ${where.home}`);
    return 0;
  });
}

/** 0 when everything fits, 1 with a line for each finding, the first broken link first. */
export async function runVerify(args: readonly string[]): Promise<number> {
  const options = readOptions(args, false);
  return within(options, (where) =>
    onSchool(where, async (db) => {
      const { home } = where;
      const service = safekeepingService(db, {
        safeDir: home === null ? null : safeIn(home),
        anchorsInBackups: async () => (home === null ? [] : anchorsInBackups(backupsIn(home))),
      });
      const { revisions, anchors, findings } = await service.check(null, () => new Date());
      const names = new Map<string, string>(
        (await db('classes').select('id', 'name')).map((c: { id: string; name: string }) => [c.id, c.name]),
      );
      for (const f of findings)
        say(findingWords(f, f.classId === null ? null : (names.get(f.classId) ?? null)));
      say(`${revisions} signed records and ${anchors} anchored heads checked: ${findings.length} findings.`);
      return findings.length === 0 ? 0 : 1;
    }),
  );
}

export async function runRebuild(args: readonly string[]): Promise<number> {
  return within(readOptions(args, false), (where) =>
    onSchool(where, async (db) => {
      const attempts = await rebuildOutcomes(db);
      say(`The counted rows of ${attempts} signed attempts were made again from their records.`);
      return 0;
    }),
  );
}

/** For leaving a store: the server must not run with it meanwhile, or it takes them there again. */
export async function runPicturesBack(args: readonly string[]): Promise<number> {
  return within(readOptions(args, false), (where) =>
    onSchool(where, async (db) => {
      const { pictures } = readConfig({ ...process.env, DATABASE_URL: where.urlOf(where.database) });
      if (!pictures) throw new Error('Set CLEAR_MARK_PICTURES_URL and its key: from where are they to come?');
      const log = { warn: ({ err }: { err: Error }) => console.error(err.message) };
      const brought = await bringPicturesBack(db, objectStorage(pictures, log as never));
      say(`${brought} pictures are in the database again. Start the server without CLEAR_MARK_PICTURES_URL.`);
      return 0;
    }),
  );
}

export async function runNewPassword(args: readonly string[]): Promise<number> {
  const home = await realHome(readOptions(args, false).data);
  await newPassword(home);
  say(`The database in ${home} has a new password, kept beside it.`);
  return 0;
}
