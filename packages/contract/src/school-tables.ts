import type { OwnDrill } from '@clear-mark/core';
import { z } from 'zod';
import { POLICY_ERRORS, PolicyShape } from './policy.ts';
import { Id, Instant, Label, MOST_WHOLE, Name, SkillShape } from './common.ts';
import { FaceTableBody } from './faces.ts';
import { LossTableShape } from './links.ts';
import { Source } from './loss-rules.ts';
import { ById, route } from './route.ts';

/** A drill of a school, with what a piece of it takes. */
export const DrillShape = z.strictObject({
  title: Name,
  how: z.string().trim().min(1).max(1000),
  skill: SkillShape,
  /** The last part of the id of the criterion that it is for; null for the skill as a whole. */
  criterion: z
    .string()
    .regex(/^[a-z0-9-]{1,60}$/)
    .nullable(),
  minutesEach: z.number().min(0.5).max(600),
  consumables: z
    .array(z.strictObject({ name: Name, each: z.number().min(0).max(1000), unit: z.string().trim().max(12) }))
    .max(20),
  source: Source,
}) satisfies z.ZodType<OwnDrill>;

/** What end faces are graded by, with the shipped table that it began as. */
export const ZoneTableShape = FaceTableBody.omit({ title: true }).strict();

export const SCHOOL_TABLE_KINDS = ['loss', 'drill', 'policy', 'zones'] as const;
/** What a school keeps of its own beside its methods, by kind. */
export const SchoolTableContent = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('loss'), title: Name, content: LossTableShape }),
  z.strictObject({ kind: z.literal('drill'), title: Name, content: DrillShape }),
  z.strictObject({
    kind: z.literal('policy'),
    title: Name,
    content: z.strictObject({ policy: PolicyShape, source: Source }),
  }),
  z.strictObject({ kind: z.literal('zones'), title: Label, content: ZoneTableShape }),
]);
export type SchoolTableContent = z.infer<typeof SchoolTableContent>;
export type SchoolTableKind = SchoolTableContent['kind'];

/** A version of it: each save is a new one, and what took an earlier one keeps it. */
export const SchoolTable = z.intersection(
  SchoolTableContent,
  z.object({
    id: Id,
    version: z.number().int().min(1),
    retired: z.boolean(),
    editedBy: z.string(),
    editedAt: Instant,
  }),
);
export type SchoolTable = z.infer<typeof SchoolTable>;

/** What of a table is kept and taken elsewhere; who saved it and when stays with the school. */
export const contentOfTable = ({ kind, title, content }: SchoolTable): SchoolTableContent =>
  ({ kind, title, content }) as SchoolTableContent;

/** `from`: the version that it was edited from, 0 for a new one. */
export const SchoolTableBody = z.object({
  from: z.number().int().min(0).max(MOST_WHOLE),
  retired: z.boolean(),
  table: SchoolTableContent,
});

export const SCHOOL_TABLE_ROUTES = {
  /** The newest version of each, those out of use last. */
  schoolTables: route('get /school-tables', 'instructor', { reply: z.array(SchoolTable) }),
  /** All versions of one, the newest first. */
  schoolTableVersions: route('get /school-tables/:id/versions', 'instructor', {
    params: ById,
    reply: z.array(SchoolTable),
    errors: ['not_found.school_table'],
  }),
  saveSchoolTable: route('put /school-tables/:id', 'lead', {
    params: ById,
    body: SchoolTableBody,
    reply: SchoolTable,
    errors: ['not_found.school_table', 'school_table.moved', 'school_table.other_kind', ...POLICY_ERRORS],
  }),
};
