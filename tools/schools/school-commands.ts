import path from 'node:path';
import { parseArgs } from 'node:util';
import { databaseOf, MAIN_CLUSTER } from '@clear-mark/server';
import { writeBackup } from '../backup.ts';
import { existingCluster, startCluster } from '../cluster.ts';
import { realHome } from '../data-folder.ts';
import { clustersOf, REGISTRY } from './clusters-of.ts';
import { addSchool, moveSchool, onRegistry, schoolOf, type SchoolsAt } from './school-work.ts';

const HELP = `./clear-mark school list
./clear-mark school add NAME --host HOST[,HOST] [--cluster CLUSTER]
./clear-mark school move NAME --to CLUSTER
./clear-mark school backup NAME FILE
./clear-mark school open NAME      after a move that was killed half-way
  --data DIR says which data, --clusters FILE names further clusters: docs/operations.md`;

const say = (line: string): void => console.log(line);

/** Schools as separate databases: listed, added, moved, backed up. */
export async function runSchool(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      host: { type: 'string' },
      cluster: { type: 'string' },
      to: { type: 'string' },
      data: { type: 'string' },
      clusters: { type: 'string' },
    },
  });
  const [act, name, file] = positionals;
  const wanted = { list: 1, add: 2, move: 2, backup: 3, open: 2 }[act ?? ''];
  if (wanted === undefined || positionals.length !== wanted) {
    console.error(HELP);
    return 2;
  }
  const { at, close } = await schoolsAt(values.data ?? null, values.clusters ?? null);
  try {
    switch (act) {
      case 'add': {
        const hosts = (values.host ?? '').split(',').filter((h) => h !== '');
        const cluster = values.cluster ?? MAIN_CLUSTER;
        const code = await addSchool(at, { name: name!, hosts, cluster });
        say(`${name} is there, called ${hosts.join(', ')}. A server that runs opens it in some seconds.`);
        say(`One-time code for the lead’s account: ${code}`);
        return 0;
      }
      case 'move': {
        if (values.to === undefined) throw new Error('Say where to: --to CLUSTER');
        const { revisions, keptAs } = await moveSchool(at, name!, values.to, new Date());
        say(`${name} is on ${values.to}; ${revisions} signed records fit their chains there.`);
        say(`What it was in is kept as the database ${keptAs}; drop it when you are sure.`);
        return 0;
      }
      case 'backup': {
        const school = await schoolOf(at, name!);
        const { counts } = await writeBackup(databaseOf(at.clusters, school).owner, file!);
        say(`${path.resolve(file!)} holds ${counts['signed_revisions']} signed records of ${name}.`);
        return 0;
      }
      case 'open':
        await schoolOf(at, name!);
        await onRegistry(at, (registry) => registry.setOpen(name!, true));
        return 0;
      default:
        return await list(at);
    }
  } finally {
    await close();
  }
}

async function list(at: SchoolsAt): Promise<number> {
  const schools = await onRegistry(at, (registry) => registry.all());
  for (const s of schools) {
    say(
      `${s.name.padEnd(20)} ${s.hosts.join(', ').padEnd(40)} ${s.cluster}/${s.database}${s.open ? '' : '  closed'}`,
    );
  }
  if (schools.length === 0) say('There is no school yet: ./clear-mark school add NAME --host HOST');
  return 0;
}

/** The clusters: that of the data folder or the given database, and those that a file names. */
async function schoolsAt(
  data: string | null,
  file: string | null,
): Promise<{ at: SchoolsAt; close: () => Promise<void> }> {
  const named = file ?? process.env['CLEAR_MARK_CLUSTERS'] ?? null;
  const app = process.env['DATABASE_URL'];
  const owner = process.env['DATABASE_OWNER_URL'] ?? app;
  if (app !== undefined && owner !== undefined && data === null) {
    return {
      at: { registryUrl: owner, clusters: clustersOf(app, owner, named) },
      close: () => Promise.resolve(),
    };
  }
  const home = await realHome(data);
  const ran = (await existingCluster(home)) !== null;
  const cluster = await startCluster({ home });
  const registryUrl = cluster.url(REGISTRY);
  return {
    at: { registryUrl, clusters: clustersOf(cluster.appUrl(REGISTRY), registryUrl, named) },
    close: async () => {
      if (!ran) await cluster.stop();
    },
  };
}
