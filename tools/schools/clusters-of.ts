import { type Clusters, clustersIn } from '@clear-mark/server';

/** The database of the registry on the main cluster. */
export const REGISTRY = 'clear_mark_schools';

/** The main cluster, and those that a file names. Errors: the file is missing, or what is wrong with it. */
export const clustersOf = (app: string, owner: string, file: string | null): Clusters =>
  clustersIn({ databaseUrl: app, ownerUrl: owner, clustersFile: file });
