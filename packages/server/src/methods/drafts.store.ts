import type { MethodDraft, MethodDraftHead } from '@clear-mark/contract';
import type { MethodSheet } from '@clear-mark/core';
import type { Database } from '../database/database.ts';

export interface StoredDraft extends MethodDraft {
  readonly closed: boolean;
}
interface Revision {
  readonly revision: number;
  readonly sheet: MethodSheet;
  readonly by: string;
  readonly at: Date;
}

/** Savings of a draft that are kept to merge by. */
const KEPT_REVISIONS = 200;

/** Times as the contract has them. */
const timed = <T extends { readonly editedAt: string }>(row: T): T => ({
  ...row,
  editedAt: new Date(row.editedAt).toISOString(),
});

export const draftsStore = (db: Database) => {
  const heads = () =>
    db('method_drafts as d')
      .join('people as p', 'p.id', 'd.edited_by')
      .select([
        'd.id',
        'd.method_id as methodId',
        'd.version',
        'd.revision',
        'p.name as editedBy',
        'd.edited_at as editedAt',
        db.raw(`d.sheet->>'title' as title`),
      ]);
  const keep = async (id: string, { revision, sheet, by, at }: Revision): Promise<void> => {
    await db('method_draft_revisions').insert({
      draft_id: id,
      revision,
      sheet: JSON.stringify(sheet),
      edited_by: by,
      edited_at: at,
    });
    await db('method_draft_revisions')
      .where('draft_id', id)
      .andWhere('revision', '<=', revision - KEPT_REVISIONS)
      .delete();
  };
  return {
    /** Drafts that are open, the newest first. */
    open: async (): Promise<MethodDraftHead[]> => {
      const rows: MethodDraftHead[] = await heads().whereNull('d.closed_at').orderBy('d.edited_at', 'desc');
      return rows.map(timed);
    },

    openOnes: async (): Promise<number> => {
      const [row] = await db('method_drafts').whereNull('closed_at').count('* as n');
      return Number(row!['n']);
    },

    byId: async (id: string): Promise<StoredDraft | null> => {
      const row = await heads()
        .select(['d.based_on as basedOn', 'd.sheet', db.raw('d.closed_at is not null as closed')])
        .where('d.id', id)
        .first<StoredDraft | undefined>();
      return row ? timed(row) : null;
    },

    /** What the draft was at a saving; null when it is not kept any more. */
    at: async (id: string, revision: number): Promise<MethodSheet | null> => {
      const row = await db('method_draft_revisions')
        .where({ draft_id: id, revision })
        .first<{ sheet: MethodSheet } | undefined>('sheet');
      return row?.sheet ?? null;
    },

    insert: async (
      draft: {
        readonly id: string;
        readonly methodId: string;
        readonly version: number;
        readonly basedOn: string | null;
      },
      first: Revision,
    ): Promise<void> => {
      await db('method_drafts').insert({
        id: draft.id,
        method_id: draft.methodId,
        version: draft.version,
        based_on: draft.basedOn,
        revision: first.revision,
        sheet: JSON.stringify(first.sheet),
        edited_by: first.by,
        edited_at: first.at,
      });
      await keep(draft.id, first);
    },

    save: async (id: string, next: Revision): Promise<void> => {
      await db('method_drafts')
        .where({ id })
        .update({
          revision: next.revision,
          sheet: JSON.stringify(next.sheet),
          edited_by: next.by,
          edited_at: next.at,
        });
      await keep(id, next);
    },

    close: async (id: string, at: Date, publishedAs: string | null): Promise<void> => {
      await db('method_drafts').where({ id }).update({ closed_at: at, published_as: publishedAs });
    },
  };
};
