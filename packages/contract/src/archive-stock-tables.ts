import { z } from 'zod';
import { Count, Moment, Short, table, Whole } from './archive-shapes.ts';
import { Day, Id } from './common.ts';
import { MethodWorkShape, STOCK_ITEM_KINDS } from './course.ts';
import { THING_ACTS } from './stock.ts';

/** What is set of equipment and of lots, what was done to them, and what pieces took of them. */
export const STOCK_TABLES = {
  thing_settings: table('what is set of a piece of equipment or a lot', {
    thing_id: Id,
    class_id: Id,
    item: Short.nullable(),
    uses: Count.nullable(),
    positions: Count.nullable(),
    hanging: Count.nullable(),
    flat: Count.nullable(),
    trays: Count.nullable(),
    rest_minutes: Count.nullable(),
    expires_at: Moment.nullable(),
    opened_days: Count.nullable(),
    due_on: Day.nullable(),
  }),
  stock_items: table('a stock item that a class has of its own', {
    class_id: Id,
    id: Short,
    label: Short,
    kind: z.enum(STOCK_ITEM_KINDS),
    unit: Short,
    pack: Count,
    opened_days: Count.nullable(),
  }),
  course_methods: table('how many good pieces by a method each trainee makes, and what a piece takes', {
    class_id: Id,
    method_id: Short,
    pieces: Count.nullable(),
    work: MethodWorkShape.nullable(),
  }),
  thing_events: table('what was done to a piece of equipment or a lot by hand', {
    id: Id,
    class_id: Id,
    thing_id: Id,
    act: z.enum(THING_ACTS),
    amount: Whole,
    left_over: Count.nullable(),
    reason: Short,
    by: Id,
    at: Moment,
  }),
  attempt_uses: table('what a scored piece took of a lot, or wore of a tool', {
    attempt_id: Id,
    class_id: Id,
    thing_id: Id,
    uses: Count,
  }),
} as const;
