import { FAIL_MARKS, PASS_MARKS } from '@clear-mark/core';
import type {
  CourseMethod,
  CourseMethodBody,
  NewStockItemBody,
  Person,
  StockItemShape,
} from '@clear-mark/contract';
import type { z } from 'zod';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { courseStore, type PassRow, workIn } from './course.store.ts';

/** What a class is to make in its course, and what a piece takes there. */
export const courseService = (db: Database) => ({
  course: async (classId: string, me: Person): Promise<CourseMethod[]> => {
    await classForInstructor(db, classId, me);
    const store = courseStore(db);
    const said = await store.methods(classId);
    const made = await store.made(classId, PASS_MARKS);
    const work = await workIn(db, classId);
    const rows = await store.passes(classId, PASS_MARKS, FAIL_MARKS);
    return Promise.all(
      rows.map(async ({ versionId, methodId, ...row }): Promise<CourseMethod> => {
        const own = made.filter((m) => m.methodId === methodId);
        return {
          ...row,
          methodId,
          steps: (await stepsOf(db, versionId)).map(({ id, title }) => ({ id, title })),
          pieces: said.get(methodId)?.pieces ?? null,
          made: Object.fromEntries(own.map((m) => [m.traineeId, m.n])),
          work: work(methodId),
          isOwnWork: (said.get(methodId)?.work ?? null) !== null,
        };
      }),
    );
  },

  set: (classId: string, body: CourseMethodBody, me: Person): Promise<void> =>
    oneAtATime(db, 'class', classId, async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = courseStore(trx);
      const inUse = await store.passes(classId, PASS_MARKS, FAIL_MARKS);
      const method = inUse.find((m) => m.methodId === body.methodId);
      if (!method) throw new AppError('not_found.method');
      if (body.work) await refuseUnknown(trx, classId, method, body.work);
      await store.set(classId, body);
    }),

  /** Sent again it is the same item. */
  addItem: (classId: string, body: z.infer<typeof NewStockItemBody>, me: Person): Promise<StockItemShape> =>
    oneAtATime(db, 'class', classId, async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = courseStore(trx);
      const item: StockItemShape = { ...body, id: itemIdOf(body.label) };
      const isSame = (i: StockItemShape): boolean =>
        i.id === item.id || i.label.toLowerCase() === item.label.toLowerCase();
      const there = (await store.items(classId)).find(isSame);
      const isAgain = there && JSON.stringify(inOrder(there)) === JSON.stringify(inOrder(item));
      if (there && !isAgain) throw new AppError('stock.item_there', { label: body.label });
      if (!there) await store.addItem(classId, item);
      return item;
    }),
});

const MOST_ID = 40;
/** Of the form of an own name, so that results that are split by lots name the item as it is called here. */
const itemIdOf = (label: string): string =>
  label
    .normalize('NFC')
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, ' ')
    .trim()
    .slice(0, MOST_ID)
    .trim()
    .replaceAll(' ', '_') || 'Item';
const inOrder = (item: StockItemShape): [string, unknown][] =>
  Object.entries(item).sort((a, b) => a[0].localeCompare(b[0]));

async function stepsOf(db: Database, versionId: string) {
  return (await methodVersion(db, versionId))?.sheet.steps ?? [];
}

async function refuseUnknown(
  db: Database,
  classId: string,
  { versionId }: PassRow,
  work: NonNullable<CourseMethodBody['work']>,
): Promise<void> {
  const items = new Set((await courseStore(db).items(classId)).map((i) => i.id));
  const strange = Object.keys(work.items).find((id) => !items.has(id));
  if (strange !== undefined) throw new AppError('stock.no_such_item', { item: strange });
  const steps = new Set((await stepsOf(db, versionId)).map((s) => s.id));
  const missing = [work.cure?.step, work.glueStep].find((id) => id && !steps.has(id));
  if (missing) throw new AppError('course.no_such_step', { step: missing });
}
