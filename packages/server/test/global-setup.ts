import type { TestProject } from 'vitest/node';
import { ensureDatabase, removeCluster, startScratchCluster } from '../../../tools/cluster.ts';
import { migrate, openDatabase, syncShippedMethods } from '../src/index.ts';

declare module 'vitest' {
  interface ProvidedContext {
    adminUrl: string;
    appUrl: string;
  }
}

/** A real PostgreSQL with a migrated template: the one that is given, or a temporary cluster of our own. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const given = process.env['CLEAR_MARK_TEST_CLUSTER'];
  const name = `test-${process.pid}`;
  const cluster = given ? null : await startScratchCluster(name, { temporary: true });
  const appGiven = process.env['CLEAR_MARK_TEST_APP'];
  const urlOf = cluster ? cluster.url : (database: string) => given!.replace(/[^/]*$/, database);
  if (cluster) await ensureDatabase(cluster, 'template_of_tests');
  const db = openDatabase(urlOf('template_of_tests'), 1);
  await migrate(db);
  await syncShippedMethods(db);
  await db.destroy();
  project.provide('adminUrl', urlOf('postgres'));
  project.provide('appUrl', cluster ? cluster.appUrl('postgres') : appGiven!);
  return async () => {
    if (cluster) await removeCluster(cluster);
  };
}
