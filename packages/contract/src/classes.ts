import { z } from 'zod';
import { Day, DecimalText, Id, Label, Name, ThingKindShape } from './common.ts';
import { ClassLink } from './links.ts';
import { METHOD_STATES } from './methods.ts';
import { Person } from './people.ts';
import { PolicyShape } from './policy.ts';

export const ClassSummary = z.object({
  id: Id,
  name: Name,
  place: z.string(),
  timeZone: z.string(),
  startsOn: Day,
  endsOn: Day,
});
export type ClassSummary = z.infer<typeof ClassSummary>;

export const NewClassBody = z.object({
  id: Id,
  name: Name,
  place: z.string().trim().max(80),
  timeZone: z.string().trim().min(1).max(60),
  startsOn: Day,
  endsOn: Day,
});

/** What a test cord lost at its last check, and for how long that holds; days of the class, losses in dB as typed. */
export const CordCheck = z.object({
  id: Id,
  checkedOn: Day,
  dueOn: Day,
  lossDb: DecimalText,
  limitDb: DecimalText,
  by: z.string(),
  at: z.string(),
});
export type CordCheck = z.infer<typeof CordCheck>;
export const NewCordCheckBody = CordCheck.omit({ by: true, at: true });
export type NewCordCheckBody = z.infer<typeof NewCordCheckBody>;

export const Thing = z.object({
  id: Id,
  kind: ThingKindShape,
  label: Label,
  retired: z.boolean(),
  /** The stock item that it is a lot of; absent for equipment. */
  item: z.string().optional(),
  /** The newest check of a test cord; absent where there is none. */
  check: CordCheck.optional(),
});
export type Thing = z.infer<typeof Thing>;

export const NewThingBody = Thing.pick({ id: true, kind: true, label: true });
/** The most pieces of equipment that one file may bring. */
export const MOST_OF_EQUIPMENT = 500;
export const NewThingsBody = z.object({ things: z.array(NewThingBody).min(1).max(MOST_OF_EQUIPMENT) });
export const ThingChangeBody = z.object({ retired: z.boolean() });

export const MethodInUse = z.object({
  versionId: Id,
  methodId: z.string(),
  version: z.number().int(),
  title: z.string(),
  state: z.enum(METHOD_STATES),
  inUse: z.boolean(),
});
export type MethodInUse = z.infer<typeof MethodInUse>;

export const ClassDetail = ClassSummary.extend({
  policy: PolicyShape,
  /** Choices of practice that differ from the shipped ones. */
  schools: z.record(z.string(), z.string()),
  instructors: z.array(Person),
  trainees: z.array(Person.extend({ group: z.string() })),
  things: z.array(Thing),
  methods: z.array(MethodInUse),
  links: z.array(ClassLink),
});
export type ClassDetail = z.infer<typeof ClassDetail>;

/** A person new to the school, or one who is there already. */
export const AddMemberBody = z.object({
  role: z.enum(['instructor', 'trainee']),
  personId: Id,
  newPerson: z.object({ name: Name }).nullable(),
});

/** The most people that one file adds. */
export const MOST_OF_ROSTER = 500;
/** A roster as it was looked through: people new to the school, or there already, with their groups. */
export const RosterBody = z.object({
  people: z
    .array(
      z.object({
        personId: Id,
        newPerson: z.object({ name: Name }).nullable(),
        group: z.string().trim().max(30),
      }),
    )
    .min(1)
    .max(MOST_OF_ROSTER),
});
export type RosterBody = z.infer<typeof RosterBody>;

/** What a new class takes from an earlier one. */
export const CLASS_PARTS = ['methods', 'equipment', 'policy', 'people'] as const;
export type ClassPart = (typeof CLASS_PARTS)[number];
export const CopyClassBody = z.object({
  id: Id,
  name: Name,
  startsOn: Day,
  endsOn: Day,
  parts: z.array(z.enum(CLASS_PARTS)).max(CLASS_PARTS.length),
});
export type CopyClassBody = z.infer<typeof CopyClassBody>;

/** A question on which practitioners disagree, as it bears on the methods that a class uses. */
export const ClassPracticeOption = z.object({
  id: z.string(),
  question: z.string(),
  options: z.array(z.object({ id: z.string(), label: z.string() })),
  default: z.string(),
  reason: z.string(),
  chosen: z.string(),
  methods: z.array(z.string()),
});
export type ClassPracticeOption = z.infer<typeof ClassPracticeOption>;

export const PracticeChoiceBody = z.object({ practice: z.string().max(60), option: z.string().max(60) });

export const MethodUseBody = z.object({ versionId: Id, inUse: z.boolean() });
