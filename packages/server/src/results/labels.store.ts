import type { Database } from '../database/database.ts';

export const labelsStore = (db: Database) => ({
  /** Every version that was ever in force, the oldest of each method first; those of archives before the school's own. */
  versions: (): Promise<{ methodId: string; title: string; id: string }[]> =>
    db('method_versions')
      .select('method_id as methodId', 'title', 'id')
      .whereNot('state', 'draft')
      .orderBy('method_id')
      .orderBy('beside', 'desc')
      .orderBy('version'),
});
