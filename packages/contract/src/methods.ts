import { CRITERION_KINDS, type MethodSheet } from '@clear-mark/core';
import { z } from 'zod';
import { Id, MOST_WHOLE, SkillShape, ThingKindShape } from './common.ts';
import { POLICY_ERRORS } from './policy.ts';
import { SCHOOL_TABLE_KINDS } from './school-tables.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

export const METHOD_STATES = ['draft', 'in_force', 'retired'] as const;

export const MethodStateBody = z.object({ state: z.enum(['in_force', 'retired']) });

export const MethodVersion = z.object({
  id: Id,
  methodId: z.string(),
  version: z.number().int(),
  state: z.enum(METHOD_STATES),
  sheet: z.custom<MethodSheet>((x) => typeof x === 'object' && x !== null),
});
export type MethodVersion = z.infer<typeof MethodVersion>;

/** A version of a method without its sheet. */
export const MethodVersionHead = z.object({
  id: Id,
  version: z.number().int(),
  state: z.enum(METHOD_STATES),
  title: z.string(),
  madeAt: z.string(),
});
export type MethodVersionHead = z.infer<typeof MethodVersionHead>;

/** A draft of a school's own method, before it is a version: as far as its lead has come with it. */
export const MethodDraftHead = z.object({
  id: Id,
  methodId: z.string(),
  title: z.string(),
  /** The version that it would become. */
  version: z.number().int(),
  revision: z.number().int(),
  editedBy: z.string(),
  editedAt: z.string(),
});
export type MethodDraftHead = z.infer<typeof MethodDraftHead>;

const Text = z.string().max(4000);
const DraftId = z.string().min(1).max(200);
/**
 * A sheet while it is being written: its steps and criteria have ids and kinds, all else may be missing or wrong, which is
 * told before it is published.
 */
const DraftCriterion = z.looseObject({ id: DraftId, kind: z.enum(CRITERION_KINDS), label: Text });
const DraftStep = z.looseObject({
  id: DraftId,
  title: Text,
  how: Text,
  criteria: z.array(DraftCriterion).max(200),
});
export const DraftSheet = z
  .looseObject({ id: DraftId, title: Text, summary: Text, steps: z.array(DraftStep).max(100) })
  .transform((sheet) => sheet as unknown as MethodSheet);

export const MethodDraft = MethodDraftHead.extend({
  basedOn: Id.nullable(),
  sheet: z.custom<MethodSheet>((x) => typeof x === 'object' && x !== null),
});
export type MethodDraft = z.infer<typeof MethodDraft>;

/** From a version as a new method, from an own version as its next one, or from nothing. */
export const NewDraftBody = z.object({
  id: Id,
  from: Id.nullable(),
  as: z.enum(['new_method', 'next_version']),
  title: z.string().trim().min(1).max(120),
});
/** `revision` is the one that was edited; what another lead saved meanwhile is merged, or the whole refused. */
export const SaveDraftBody = z.object({
  revision: z.number().int().min(1).max(MOST_WHOLE),
  sheet: DraftSheet,
});
/** `classId`: the class that uses it from now on, beside those that used an earlier version. */
export const PublishBody = z.object({
  revision: z.number().int().min(1).max(MOST_WHOLE),
  classId: Id.nullable(),
});

/** What a pack is made of, and what it says of itself. */
export const PackOrder = z.object({
  versionIds: z.array(Id).min(1).max(500),
  tableIds: z.array(Id).max(500).default([]),
  title: z.string().trim().min(1).max(200),
  author: z.string().trim().min(1).max(200),
  licence: z.string().trim().min(1).max(5000),
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'a language such as en or pt-BR'),
});
/** A pack as it came: looked through by its own schema, so that what is wrong is told with its place. */
const PackBody = z.object({ pack: z.unknown() });
export const PackPreview = z.object({
  title: z.string(),
  author: z.string(),
  licence: z.string(),
  language: z.string(),
  methods: z.array(
    z.object({
      methodId: z.string(),
      version: z.number().int(),
      title: z.string(),
      /** `next`: a version of a method that is here already, which has not been here. */
      is: z.enum(['new', 'next', 'equal']),
    }),
  ),
  tables: z.array(
    z.object({
      id: Id,
      version: z.number().int(),
      title: z.string(),
      kind: z.enum(SCHOOL_TABLE_KINDS),
      /** `earlier`: a later version is here, and stays. */
      is: z.enum(['new', 'next', 'equal', 'earlier']),
    }),
  ),
});
export type PackPreview = z.infer<typeof PackPreview>;
const PACK_ERRORS = [
  'pack.not_one',
  'pack.other_schema',
  'pack.bad_field',
  'pack.markup',
  'pack.digest',
  'pack.repeated',
  'pack.not_sound',
  'pack.changed_version',
  ...POLICY_ERRORS,
] as const;

/** What the school named itself: in the methods in force, and among the equipment of its classes. */
export const OwnNames = z.object({ skills: z.array(SkillShape), things: z.array(ThingKindShape) });
export type OwnNames = z.infer<typeof OwnNames>;

export const METHOD_ROUTES = {
  ownNames: route('get /own-names', 'instructor', { reply: OwnNames }),
  methodsOfSchool: route('get /method-versions', 'lead', {
    reply: z.array(MethodVersionHead.extend({ methodId: z.string() })),
  }),
  makePack: route('post /method-packs', 'lead', {
    body: PackOrder,
    reply: z.object({ text: z.string() }),
    errors: ['not_found.method_version', 'not_found.school_table'],
  }),
  previewPack: route('post /method-packs/preview', 'lead', {
    body: PackBody,
    reply: PackPreview,
    errors: PACK_ERRORS,
  }),
  importPack: route('post /method-packs/import', 'lead', {
    body: PackBody,
    reply: PackPreview,
    errors: PACK_ERRORS,
  }),
  methodVersion: route('get /method-versions/:id', 'signed_in', {
    params: ById,
    reply: MethodVersion,
    errors: ['not_found.method_version'],
  }),
  /** A draft comes in force, or a version in force retires; a version in force never changes otherwise. */
  setMethodState: route('put /method-versions/:id/state', 'lead', {
    params: ById,
    body: MethodStateBody,
    reply: MethodVersion,
    errors: ['not_found.method_version', 'method.state'],
  }),
  versionsBeside: route('get /method-versions/:id/versions', 'instructor', {
    params: ById,
    reply: z.array(MethodVersionHead),
    errors: ['not_found.method_version'],
  }),
  methodDrafts: route('get /method-drafts', 'lead', { reply: z.array(MethodDraftHead) }),
  addDraft: route('post /method-drafts', 'lead', {
    body: NewDraftBody,
    reply: MethodDraft,
    errors: ['not_found.method_version', 'method.shipped', 'method.too_many_drafts'],
  }),
  methodDraft: route('get /method-drafts/:id', 'lead', {
    params: ById,
    reply: MethodDraft,
    errors: ['not_found.method_draft'],
  }),
  saveDraft: route('put /method-drafts/:id', 'lead', {
    params: ById,
    body: SaveDraftBody,
    reply: MethodDraft,
    errors: ['not_found.method_draft', 'method.draft_closed', 'method.draft_moved', 'versions.edited_twice'],
  }),
  discardDraft: route('delete /method-drafts/:id', 'lead', {
    params: ById,
    errors: ['not_found.method_draft', 'method.draft_closed'],
  }),
  publishDraft: route('post /method-drafts/:id/publication', 'lead', {
    params: ById,
    body: PublishBody,
    reply: MethodVersion,
    errors: [
      ...CLASS_ERRORS,
      'not_found.method_draft',
      'method.draft_closed',
      'method.draft_moved',
      'method.not_complete',
    ],
  }),
};
