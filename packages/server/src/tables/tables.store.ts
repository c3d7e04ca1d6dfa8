import type { SchoolTable, SchoolTableContent } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

interface Row {
  readonly id: string;
  readonly version: number;
  readonly kind: SchoolTable['kind'];
  readonly title: string;
  readonly content: unknown;
  readonly retired: boolean;
  readonly editedBy: string;
  readonly editedAt: Date;
}

export const tablesStore = (db: Database) => {
  const rows = () =>
    db('school_tables as t').join('people as p', 'p.id', 't.edited_by').select({
      id: 't.id',
      version: 't.version',
      kind: 't.kind',
      title: 't.title',
      content: 't.content',
      retired: 't.retired',
      editedBy: 'p.name',
      editedAt: 't.edited_at',
    });
  return {
    /** The newest version of each, those in use first, by title. */
    newest: async (): Promise<SchoolTable[]> => {
      const found: Row[] = await rows()
        .distinctOn('t.id')
        .orderBy([{ column: 't.id' }, { column: 't.version', order: 'desc' }]);
      return found
        .map(tableOf)
        .sort((a, b) => Number(a.retired) - Number(b.retired) || a.title.localeCompare(b.title));
    },
    versions: async (id: string): Promise<SchoolTable[]> => {
      const found: Row[] = await rows().where('t.id', id).orderBy('t.version', 'desc');
      return found.map(tableOf);
    },
    insert: async (
      id: string,
      version: number,
      { kind, title, content }: SchoolTableContent,
      made: { readonly retired: boolean; readonly by: string; readonly at: Date },
    ): Promise<void> => {
      await db('school_tables').insert({
        id,
        version,
        kind,
        title,
        content: JSON.stringify(content),
        retired: made.retired,
        edited_by: made.by,
        edited_at: made.at,
      });
    },
  };
};

const tableOf = ({ editedAt, ...row }: Row): SchoolTable =>
  ({ ...row, editedAt: new Date(editedAt).toISOString() }) as SchoolTable;
