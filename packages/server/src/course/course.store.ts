import type { MethodWorkShape, StockItemShape } from '@clear-mark/contract';
import { STOCK_ITEMS, type MethodWork, workOf } from '@clear-mark/methods';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

interface CourseRow {
  readonly methodId: string;
  readonly pieces: number | null;
  readonly work: MethodWorkShape | null;
}
export interface PassRow {
  readonly versionId: string;
  readonly methodId: string;
  readonly title: string;
  readonly passed: number;
  readonly failed: number;
}

export const courseStore = (db: Database) => ({
  /** What the class said of its methods, by method id. */
  methods: async (classId: string): Promise<Map<string, CourseRow>> => {
    const rows = await db('course_methods')
      .where({ class_id: classId })
      .select<CourseRow[]>(['method_id as methodId', 'pieces', 'work']);
    return new Map(rows.map((r) => [r.methodId, r]));
  },
  set: async (classId: string, { methodId, pieces, work }: CourseRow): Promise<void> => {
    const row = { pieces, work: work && JSON.stringify(work) };
    await db('course_methods')
      .insert({ class_id: classId, method_id: methodId, ...row })
      .onConflict(['class_id', 'method_id'])
      .merge(row);
  },

  /** All items of a class: the shipped ones, then its own by label. */
  items: async (classId: string): Promise<StockItemShape[]> => {
    const own = await db('stock_items')
      .where({ class_id: classId })
      .orderBy('label')
      .select<StockItemShape[]>(['id', 'label', 'kind', 'unit', 'pack', 'opened_days as openedDays']);
    return [...STOCK_ITEMS.map(({ source: _, ...item }) => ({ ...item })), ...own];
  },
  addItem: async (classId: string, { openedDays, ...item }: StockItemShape): Promise<void> => {
    await db('stock_items').insert({ class_id: classId, opened_days: openedDays, ...item });
  },

  /** How often pieces by each method in use passed, over all classes of the school. */
  passes: (classId: string, passMarks: readonly string[], failMarks: readonly string[]) =>
    rowsOf<PassRow>(
      db,
      sql`select (max(v.id::text))::uuid as "versionId", v.method_id as "methodId", max(v.title) as title,
                 count(o.attempt_id) filter (where o.mark = any(${passMarks}))::int as passed,
                 count(o.attempt_id) filter (where o.mark = any(${failMarks}))::int as failed
            from class_methods m join method_versions v on v.id = m.method_version_id
            left join outcome_skills o on o.method_id = v.method_id and o.skill = 'whole'
           where m.class_id = ${classId} and m.in_use
           group by v.method_id order by 3`,
    ),
  /** How many pieces of each trainee in the class passed, by method. */
  made: (classId: string, passMarks: readonly string[]) =>
    rowsOf<{ methodId: string; traineeId: string; n: number }>(
      db,
      sql`select method_id as "methodId", trainee_id as "traineeId", count(*)::int as n
            from outcome_skills
           where class_id = ${classId} and skill = 'whole' and mark = any(${passMarks})
           group by 1, 2`,
    ),
});

/** What a piece by a method takes in a class: as the class said, else as the method is shipped. */
export async function workIn(db: Database, classId: string): Promise<(methodId: string) => MethodWork> {
  const said = await courseStore(db).methods(classId);
  return (methodId) => (said.get(methodId)?.work as MethodWork | null | undefined) ?? workOf(methodId);
}
