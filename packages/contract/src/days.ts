import { OVEN_WAYS } from '@clear-mark/core';
import { z } from 'zod';
import { Day, Id, Instant, Label, oneOf, SkillShape } from './common.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

/** The most pieces, and the most steps of one, that a day is planned with. */
export const MOST_DAY_PIECES = 400;
const MOST_STEPS = 30;
const MOST_THINGS = 60;
/** Twenty trays of 200 places. */
const MOST_FLAT = 4000;
const minute = z.number().int().min(0).max(2880);
const spanOf = { from: minute, to: minute };
const Count = z.number().int().min(1).max(MOST_THINGS);

const WorkStepShape = z.object({
  kind: z.literal('work'),
  name: z.string().max(120),
  minutes: minute.min(1),
  station: z.string().max(60).nullable(),
  watched: minute,
  by: z.number().int().optional(),
});
const CureStepShape = z.object({
  kind: z.literal('cure'),
  name: z.string().max(120),
  minutes: minute.min(1),
  cool: minute.optional(),
  schedule: z.string().max(60),
  way: oneOf(OVEN_WAYS),
});
export const PieceStepShape = z.discriminatedUnion('kind', [WorkStepShape, CureStepShape]);

/** A piece that is wanted on a day. */
export const DayPiece = z.object({
  id: Id,
  traineeId: Id,
  methodVersionId: Id,
  steps: z.array(PieceStepShape).min(1).max(MOST_STEPS),
});
export type DayPiece = z.infer<typeof DayPiece>;

const PlannedWorkShape = z.object({
  ...spanOf,
  pieceId: Id,
  step: z.number().int().min(0).max(MOST_STEPS),
  unit: Count.nullable(),
  instructor: Count.nullable(),
});
const PlannedLoadShape = z.object({
  ...spanOf,
  ovenId: Id,
  schedule: z.string().max(60),
  way: oneOf(OVEN_WAYS),
  members: z
    .array(z.object({ pieceId: Id, step: z.number().int().min(0).max(MOST_STEPS) }))
    .min(1)
    .max(400),
});
export const DayPlanShape = z.object({
  work: z.array(PlannedWorkShape).max(MOST_DAY_PIECES * MOST_STEPS),
  loads: z.array(PlannedLoadShape).max(MOST_DAY_PIECES),
  left: z.array(Id).max(MOST_DAY_PIECES),
  endsAt: minute,
});

/** Somebody or something that is not there for a while; minutes since the first of the hours began. */
export const AwayShape = z.object({
  ...spanOf,
  of: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('trainee'), id: Id }),
    z.object({ kind: z.literal('oven'), id: Id }),
    z.object({ kind: z.literal('station'), id: z.string().max(60), unit: Count }),
    z.object({ kind: z.literal('instructor'), unit: Count }),
  ]),
});
const HoursShape = z
  .array(z.object({ from: Instant, to: Instant }))
  .min(1)
  .max(8)
  .refine(
    (hours) => hours.every((h, i) => h.from < h.to && (i === 0 || hours[i - 1]!.to <= h.from)),
    'hours have to end after they begin, one after the other',
  )
  .refine(
    (hours) => Date.parse(hours.at(-1)!.to) - Date.parse(hours[0]!.from) <= 86_400_000,
    'hours of one day are needed, 24 at the most',
  );

/** A day of a class as it is planned. Minutes count from the first of its hours; the n-th station of a kind is the n-th of its things. */
export const DayPlanBody = z.object({
  hours: HoursShape,
  stations: z.record(z.string().max(60), z.array(Id).max(MOST_THINGS)),
  ovens: z
    .array(
      z.object({
        id: Id,
        places: z.object({
          hanging: z.number().int().min(0).max(200),
          flat: z.number().int().min(0).max(MOST_FLAT),
        }),
        /** Trays that its flat places are spread over. */
        trays: Count.default(1),
        rest: minute,
      }),
    )
    .max(MOST_THINGS),
  instructors: z.array(Id).max(MOST_THINGS),
  /** At which bench each trainee works; who is not in it has none of their own. */
  benches: z.record(Id, Id).default({}),
  pieces: z.array(DayPiece).max(MOST_DAY_PIECES),
  away: z.array(AwayShape).max(100),
  /** Steps that stay where they are when it is planned again. */
  locks: z.array(z.object({ pieceId: Id, step: z.number().int().min(0).max(MOST_STEPS) })).max(4000),
  plan: DayPlanShape.nullable(),
  /** The version that was changed: 0 for a day that nobody has planned yet. */
  version: z.number().int().min(0).max(1_000_000),
});
export type DayPlanBody = z.infer<typeof DayPlanBody>;

/** What went into an oven, and when it is done. */
export const DayLoad = z.object({
  id: Id,
  ovenId: Id,
  schedule: z.string().max(60),
  /** Whose pieces are in it, an id a piece. */
  members: z.array(Id).max(400),
  startedAt: z.string(),
  endsAt: z.string(),
  takenOutAt: z.string().nullable(),
});
export type DayLoad = z.infer<typeof DayLoad>;
export const NewDayLoadBody = DayLoad.pick({ id: true, ovenId: true, schedule: true, members: true }).extend({
  minutes: minute.min(1),
});

/** A thing of this class that another class plans with that day, known by its kind and label. */
export const DayClash = z.object({ thingId: Id, label: Label, className: z.string() });
export const PlannedDay = z.object({
  day: Day,
  saved: DayPlanBody.extend({ changedAt: z.string(), changedBy: z.string() }).nullable(),
  loads: z.array(DayLoad),
  /** At which bench each trainee worked last. */
  benches: z.record(Id, Id),
  /** Pieces that were begun on that day and are signed. */
  signed: z.array(z.object({ traineeId: Id, versionId: Id, n: z.number().int() })),
  clashes: z.array(DayClash),
});
export type PlannedDay = z.infer<typeof PlannedDay>;

/** Minutes that whole pieces took: the median and the middle half; null where too few were timed. */
export const Timed = z.object({ n: z.number().int(), median: z.number(), from: z.number(), to: z.number() });
export type Timed = z.infer<typeof Timed>;
/** A method in use as a day is planned with it. */
export const DayMethod = z.object({
  versionId: Id,
  methodId: z.string(),
  title: z.string(),
  /** Its skills, the one with the most criteria first. */
  skills: z.array(SkillShape),
  steps: z.array(PieceStepShape),
  /** In which of them each step of the sheet is, in the order of the sheet. */
  places: z.array(z.number().int()),
  /** By the end of this step its adhesive has to be good; null where it has none. */
  glueStep: z.number().int().nullable(),
  needs: z.array(z.object({ item: z.string(), uses: z.number() })),
  class: Timed.nullable(),
  trainees: z.record(z.string(), Timed),
});
export type DayMethod = z.infer<typeof DayMethod>;

/** A trainee's own part of a day. */
export const OwnDayStep = z.object({
  from: z.string(),
  to: z.string(),
  title: z.string(),
  name: z.string(),
  /** The station or the oven; null at the bench. */
  at: z.string().nullable(),
});
/** A load with a piece of theirs that is in an oven. */
export const OwnLoad = z.object({ id: Id, oven: z.string(), schedule: z.string(), endsAt: z.string() });
export type OwnLoad = z.infer<typeof OwnLoad>;
export const OwnDay = z.object({
  classId: Id,
  className: z.string(),
  day: Day,
  /** Their bench; null where none was planned. */
  bench: z.string().nullable(),
  steps: z.array(OwnDayStep),
  loads: z.array(OwnLoad),
});
export type OwnDay = z.infer<typeof OwnDay>;

const OfDay = ById.extend({ day: Day });
export const DAY_ROUTES = {
  day: route('get /classes/:id/days/:day', 'instructor', {
    params: OfDay,
    reply: PlannedDay,
    errors: CLASS_ERRORS,
  }),
  dayMethods: route('get /classes/:id/day-methods', 'instructor', {
    params: ById,
    reply: z.array(DayMethod),
    errors: CLASS_ERRORS,
  }),
  saveDay: route('put /classes/:id/days/:day', 'instructor', {
    params: OfDay,
    body: DayPlanBody,
    reply: z.object({ version: z.number().int() }),
    errors: [...CLASS_ERRORS, 'day.changed_meanwhile', 'day.not_whole', 'day.outside_class'],
  }),
  startLoad: route('post /classes/:id/days/:day/loads', 'instructor', {
    params: OfDay,
    body: NewDayLoadBody,
    errors: [...CLASS_ERRORS, 'not_found.thing'],
  }),
  takeLoadOut: route('put /classes/:id/days/:day/loads/:loadId', 'instructor', {
    params: OfDay.extend({ loadId: Id }),
    errors: [...CLASS_ERRORS, 'not_found.load'],
  }),
  ownDays: route('get /me/days', 'signed_in', { reply: z.array(OwnDay) }),
} as const;

/** A planned day as an iCalendar file: an event a trainee and piece. */
export const DAY_CALENDAR_PATH = '/api/classes/:id/days/:day/plan.ics';
