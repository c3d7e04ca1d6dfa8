import type { ClassLink } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

const LINK = ['id', 'label', 'plan', 'reference_method as referenceMethod', 'settings'];

export const linksStore = (db: Database) => ({
  ofClass: (classId: string): Promise<ClassLink[]> =>
    db('links')
      .select([...LINK, db.raw('retired_at is not null as retired')])
      .where({ class_id: classId })
      .orderByRaw('retired_at is not null, label'),

  byId: async (classId: string, id: string): Promise<ClassLink | null> =>
    (await db('links')
      .select([...LINK, db.raw('retired_at is not null as retired')])
      .where({ class_id: classId, id })
      .first()) ?? null,

  /** False when the id belongs to another class. */
  save: async (classId: string, link: ClassLink, by: string): Promise<boolean> => {
    const columns = {
      label: link.label,
      plan: JSON.stringify(link.plan),
      reference_method: link.referenceMethod,
      settings: JSON.stringify(link.settings),
      retired_at: link.retired ? db.fn.now() : null,
    };
    const changed = await db('links')
      .insert({ id: link.id, class_id: classId, made_by: by, ...columns })
      .onConflict('id')
      .merge(columns)
      .where('links.class_id', classId)
      .returning('id');
    return changed.length === 1;
  },
});
