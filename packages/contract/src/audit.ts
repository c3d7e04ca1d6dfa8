import { z } from 'zod';
import { Id, Instant, oneOf, QueryWhole } from './common.ts';
import { route } from './route.ts';

/** What the audit trail keeps, by what it is about. */
export const AUDIT_KINDS = [
  'sign_in',
  'sign_in_failed',
  'sign_out',
  'account_made',
  'account_invited',
  'account_mailed',
  'account_code_withdrawn',
  'account_joined',
  'account_renamed',
  'account_role',
  'account_disabled',
  'account_enabled',
  'person_erased',
  'receiver_made',
  'receiver_dropped',
  'token_made',
  'token_ended',
  'pin_set',
  'pin_dropped',
  'bench_made',
  'bench_ended',
  'account_password',
  'account_sessions_ended',
  'second_factor_on',
  'second_factor_off',
  'second_factor_required',
  'class_made',
  'class_joined',
  'class_left',
  'class_policy',
  'class_practice',
  'class_method',
  'method_published',
  'method_retired',
  'pack_taken',
  'archive_taken',
  'school_table',
  'certificate_issued',
  'certificate_withdrawn',
  'record_amended',
  'export',
] as const;
export type AuditKind = (typeof AUDIT_KINDS)[number];

export const AuditEvent = z.object({
  seq: z.number().int(),
  at: Instant,
  kind: oneOf(AUDIT_KINDS),
  /** Who did it; null where nobody was signed in. */
  by: z.string().nullable(),
  /** The person that it was done to. */
  person: z.string().nullable(),
  className: z.string().nullable(),
  /** What was chosen, as a short text without names. */
  detail: z.string(),
});
export type AuditEvent = z.infer<typeof AuditEvent>;

export const AuditFilter = z.object({
  kind: oneOf(AUDIT_KINDS).optional(),
  /** Who did it or to whom it was done. */
  person: Id.optional(),
  classId: Id.optional(),
  /** Words of the detail or of a name. */
  text: z.string().trim().max(80).optional(),
  /** The page that goes on before this event. */
  before: QueryWhole.optional(),
});
export type AuditFilter = z.infer<typeof AuditFilter>;

export const AUDIT_ROUTES = {
  /** The newest first, a page of 100. */
  audit: route('get /audit', 'lead', {
    query: AuditFilter,
    reply: z.object({ events: z.array(AuditEvent), more: z.boolean() }),
  }),
} as const;

/** The trail as CSV, by the same filter. */
export const AUDIT_CSV_PATH = '/api/audit.csv';
