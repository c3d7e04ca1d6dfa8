import { z } from 'zod';
import { Id, oneOf } from './common.ts';

/** What a check of the records can find. */
export const FINDING_KINDS = [
  'gap',
  'link_broken',
  'record_changed',
  'reason_changed',
  'note_changed',
  'evidence_changed',
  'derived_differs',
  'tail_missing',
  'head_behind',
  'revision_missing',
  'anchor_lost',
  'head_forged',
] as const;

/** Something that does not fit, by its class, its place in the class's chain and its attempt. */
export const Finding = z.object({
  kind: oneOf(FINDING_KINDS),
  classId: Id.nullable(),
  classSeq: z.number().int().nullable(),
  attemptId: Id.nullable(),
  pieceLabel: z.string().nullable(),
  traineeName: z.string().nullable(),
  /** Where a head was anchored. */
  from: z.string().nullable(),
});
export type Finding = z.infer<typeof Finding>;

export const BackupRow = z.object({
  at: z.string(),
  file: z.string(),
  bytes: z.number(),
  sha256: z.string().nullable(),
  /** Why it failed; null where it is whole. */
  failed: z.string().nullable(),
});
export type BackupRow = z.infer<typeof BackupRow>;

export const CheckRow = z.object({
  at: z.string(),
  /** Null for the nightly one. */
  by: z.string().nullable(),
  ms: z.number(),
  revisions: z.number(),
  findings: z.array(Finding),
});
export type CheckRow = z.infer<typeof CheckRow>;

/** How safe the records are: what the lead sees of backups, checks and heads. */
export const Safekeeping = z.object({
  backups: z.array(BackupRow),
  lastGoodBackup: z.string().nullable(),
  checks: z.array(CheckRow),
  heads: z.array(
    z.object({ day: z.string(), className: z.string(), classSeq: z.number().int(), hash: z.string() }),
  ),
  /** Heads are also kept, signed, in files outside the database. */
  headsInFiles: z.boolean(),
  /** The application's role cannot change what is written once. */
  roleIsBound: z.boolean(),
});
export type Safekeeping = z.infer<typeof Safekeeping>;
