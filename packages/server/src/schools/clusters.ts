import { readFileSync } from 'node:fs';
import { z } from 'zod';
import type { Config } from '../config.ts';

const POSTGRES = /^postgres(ql)?$/;

/** A database cluster: addresses with any database, for the application's role and for the owner. */
export interface ClusterUrls {
  readonly app: string;
  readonly owner: string;
}
export type Clusters = Readonly<Record<string, ClusterUrls>>;

/** The cluster that DATABASE_URL names; the registry lies there too. */
export const MAIN_CLUSTER = 'main';

const Shape = z.record(
  z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
  z.strictObject({ app: z.url({ protocol: POSTGRES }), owner: z.url({ protocol: POSTGRES }) }),
);

/** Further clusters by name, from the text of a JSON file. Error: what is wrong with it. */
export function readClusters(text: string, file: string): Clusters {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch {
    throw new Error(`${file} is no JSON`);
  }
  const parsed = Shape.safeParse(found);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new Error(`${file}: ${issue.path.join('.') || 'the whole'}: ${issue.message}`);
}

/** The cluster of the registry, and those that the settings name. Errors: the file is missing, or what is wrong with it. */
export const clustersIn = ({
  databaseUrl,
  ownerUrl,
  clustersFile,
}: Pick<Config, 'databaseUrl' | 'ownerUrl' | 'clustersFile'>): Clusters => ({
  ...(clustersFile ? readClusters(readFileSync(clustersFile, 'utf8'), clustersFile) : {}),
  [MAIN_CLUSTER]: { app: databaseUrl, owner: ownerUrl ?? databaseUrl },
});

/** The address of a database of a cluster. Error: no cluster of that name is in the settings. */
export function databaseOf(
  clusters: Clusters,
  { cluster, database }: { readonly cluster: string; readonly database: string },
): ClusterUrls {
  const found = clusters[cluster];
  if (!found) throw new Error(`The settings name no cluster ${cluster}`);
  return { app: withDatabase(found.app, database), owner: withDatabase(found.owner, database) };
}

export function withDatabase(url: string, database: string): string {
  const changed = new URL(url);
  changed.pathname = `/${database}`;
  return changed.href;
}
