import { OVEN_WAYS } from '@clear-mark/core';
import { z } from 'zod';
import { Id, Label, MOST_WHOLE, oneOf } from './common.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

const whole = (least: number, most: number) => z.number().int().min(least).max(most);
const Uses = whole(1, 1000);
const StepId = z.string().min(1).max(60);

/** What a piece by a method takes, and what it does in an oven. */
export const MethodWorkShape = z.object({
  /** Uses of stock by item. */
  items: z.record(z.string().min(1).max(60), Uses),
  /** What wears with a piece: arcs, cleaves, matings. */
  tools: z.object({ splicer: Uses.optional(), cleaver: Uses.optional(), cord: Uses.optional() }),
  cure: z
    .object({
      step: StepId,
      minutes: whole(1, 1440),
      coolMinutes: whole(0, 240),
      way: oneOf(OVEN_WAYS),
    })
    .nullable(),
  /** The step until whose end an adhesive has to be good; null where none is used. */
  glueStep: StepId.nullable(),
});
export type MethodWorkShape = z.infer<typeof MethodWorkShape>;

/** A method in use as a course is planned with it. */
export const CourseMethod = z.object({
  methodId: z.string(),
  title: z.string(),
  steps: z.array(z.object({ id: z.string(), title: z.string() })),
  /** Good pieces that each trainee is to make in this course; null where nobody said. */
  pieces: whole(0, 200).nullable(),
  /** Pieces of the whole school that passed and failed, for what a course needs. */
  passed: whole(0, MOST_WHOLE),
  failed: whole(0, MOST_WHOLE),
  /** Pieces of each trainee in this class that passed. */
  made: z.record(Id, z.number().int()),
  work: MethodWorkShape,
  /** Whether this class said for itself what a piece takes. */
  isOwnWork: z.boolean(),
});
export type CourseMethod = z.infer<typeof CourseMethod>;

export const CourseMethodBody = z.object({
  methodId: z.string().min(1).max(120),
  pieces: whole(0, 200).nullable(),
  /** Null: as the method is shipped. */
  work: MethodWorkShape.nullable(),
});
export type CourseMethodBody = z.infer<typeof CourseMethodBody>;

export const STOCK_ITEM_KINDS = ['film', 'batch', 'supply'] as const;
/** Something that a class uses up. */
export const StockItemShape = z.object({
  id: z.string(),
  label: Label,
  kind: z.enum(STOCK_ITEM_KINDS),
  /** What one use of it is called. */
  unit: z.string(),
  pack: whole(1, 100_000),
  openedDays: whole(1, 3650).nullable(),
});
export type StockItemShape = z.infer<typeof StockItemShape>;
export const NewStockItemBody = StockItemShape.omit({ id: true }).extend({
  unit: z.string().trim().min(1).max(30),
});

export const COURSE_ROUTES = {
  course: route('get /classes/:id/course', 'instructor', {
    params: ById,
    reply: z.array(CourseMethod),
    errors: CLASS_ERRORS,
  }),
  setCourseMethod: route('put /classes/:id/course', 'instructor', {
    params: ById,
    body: CourseMethodBody,
    errors: [...CLASS_ERRORS, 'not_found.method', 'stock.no_such_item', 'course.no_such_step'],
  }),
  addStockItem: route('post /classes/:id/stock-items', 'instructor', {
    params: ById,
    body: NewStockItemBody,
    reply: StockItemShape,
    errors: [...CLASS_ERRORS, 'stock.item_there'],
  }),
} as const;
