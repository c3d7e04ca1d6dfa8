import { THING_WARNINGS } from '@clear-mark/core';
import { z } from 'zod';
import { Day, Id, Instant, Label, oneOf, ThingKindShape } from './common.ts';
import { StockItemShape } from './course.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

const whole = (least: number, most: number) => z.number().int().min(least).max(most);
/** The most uses that a lot or a tool has. */
export const MOST_USES = 1_000_000;

/** What is set of a piece of equipment or of a lot, beside its label; what does not bear on its kind is null. */
export const ThingSettings = z.object({
  /** Which stock item a lot is of; null for equipment. */
  item: z.string().max(60).nullable(),
  /** Uses from new, or from one service to the next. */
  uses: whole(1, MOST_USES).nullable(),
  /** Positions of a cleaver's blade, each with its own uses. */
  positions: whole(1, 100).nullable(),
  /** Places of an oven, and the minutes from one load to the next. */
  hanging: whole(0, 200).nullable(),
  /** Of one tray, where an oven has several. */
  flat: whole(0, 200).nullable(),
  trays: whole(1, 20).nullable(),
  restMinutes: whole(0, 240).nullable(),
  expiresAt: Instant.nullable(),
  openedDays: whole(1, 3650).nullable(),
  /** When its calibration, its check or its service falls due; a day of the class. */
  dueOn: Day.nullable(),
});
export type ThingSettings = z.infer<typeof ThingSettings>;
/** Nothing is set. */
export const NO_SETTINGS: ThingSettings = {
  item: null,
  uses: null,
  positions: null,
  hanging: null,
  flat: null,
  trays: null,
  restMinutes: null,
  expiresAt: null,
  openedDays: null,
  dueOn: null,
};

/** What was done to it by hand: begun, serviced (a blade turned, electrodes changed, a cord cleaned), its count put right. */
export const THING_ACTS = ['opened', 'serviced', 'corrected'] as const;
export type ThingAct = (typeof THING_ACTS)[number];
export const ThingEvent = z.object({
  id: Id,
  act: z.enum(THING_ACTS),
  /** What is left after a correction; null for other acts. */
  left: whole(0, MOST_USES).nullable(),
  reason: z.string(),
  by: z.string(),
  at: z.string(),
});
export type ThingEvent = z.infer<typeof ThingEvent>;
export const NewThingEventBody = z.object({
  id: Id,
  act: z.enum(THING_ACTS),
  left: whole(0, MOST_USES).nullable(),
  reason: z.string().trim().max(200),
});

/** A piece of equipment or a lot as the stock shows it. Instants in ISO 8601. */
export const StockThing = z.object({
  id: Id,
  kind: ThingKindShape,
  label: Label,
  retired: z.boolean(),
  settings: ThingSettings,
  openedAt: z.string().nullable(),
  servicedAt: z.string().nullable(),
  /** Uses since it was new or last serviced, corrections included. */
  used: z.number().int(),
  left: z.number().int().nullable(),
  /** At which of its positions a blade is, counted from 1; null for what has none. */
  position: z.number().int().nullable(),
  lastsDays: z.number().nullable(),
  goodUntil: z.string().nullable(),
  warnings: z.array(oneOf(THING_WARNINGS)),
  events: z.array(ThingEvent),
});
export type StockThing = z.infer<typeof StockThing>;

export const Stock = z.object({ things: z.array(StockThing), items: z.array(StockItemShape) });
export type Stock = z.infer<typeof Stock>;

const OfThing = ById.extend({ thingId: Id });
const THING_ERRORS = [...CLASS_ERRORS, 'not_found.thing'] as const;

export const STOCK_ROUTES = {
  stock: route('get /classes/:id/stock', 'instructor', { params: ById, reply: Stock, errors: CLASS_ERRORS }),
  setThing: route('put /classes/:id/things/:thingId/settings', 'instructor', {
    params: OfThing,
    body: ThingSettings,
    errors: [...THING_ERRORS, 'stock.no_such_item'],
  }),
  addThingEvent: route('post /classes/:id/things/:thingId/events', 'instructor', {
    params: OfThing,
    body: NewThingEventBody,
    errors: [...THING_ERRORS, 'stock.not_counted'],
  }),
} as const;
