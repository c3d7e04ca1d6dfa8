import type { AuditKind, CertificateState, Reach, ReceiverKind, ToldEvent } from '@clear-mark/contract';

const AUDIT_WORDS: Readonly<Record<AuditKind, string>> = {
  sign_in: 'signed in',
  sign_in_failed: 'failed to sign in',
  sign_out: 'signed out',
  account_made: 'made an account',
  account_invited: 'gave out a code for an account',
  account_mailed: 'had a code sent by mail',
  account_code_withdrawn: 'withdrew a code',
  account_joined: 'took an account by its code',
  account_renamed: 'changed a name',
  account_role: 'changed a role',
  account_disabled: 'closed an account',
  account_enabled: 'opened an account again',
  person_erased: 'erased a person',
  pin_set: 'set the own PIN',
  pin_dropped: 'took a PIN away',
  bench_made: 'made a device a bench device',
  bench_ended: 'ended a bench device',
  token_made: 'made a token for scripts',
  token_ended: 'ended a token for scripts',
  receiver_made: 'had another program told what happens',
  receiver_dropped: 'had another program told no longer',
  account_password: 'changed the own password',
  account_sessions_ended: 'ended all sessions',
  second_factor_on: 'set up a second factor',
  second_factor_off: 'took a second factor away',
  second_factor_required: 'changed whether leads need a second factor',
  class_made: 'made a class',
  class_joined: 'added somebody to a class',
  class_left: 'took somebody out of a class',
  class_policy: 'changed the competence policy',
  class_practice: 'answered a question of practice',
  class_method: 'changed the methods in use',
  method_published: 'published a method',
  method_retired: 'retired a method',
  pack_taken: 'took a method pack in',
  archive_taken: 'took a class in from an archive',
  school_table: 'saved a table of the school',
  certificate_issued: 'issued a certificate',
  certificate_withdrawn: 'withdrew a certificate',
  record_amended: 'amended a signed record',
  export: 'took data out',
};

/** What was done, after the name of who did it: `signed in`. */
export const auditWords = (kind: AuditKind): string => AUDIT_WORDS[kind];

export const CERTIFICATE_STATE_WORDS: Readonly<Record<CertificateState, string>> = {
  valid: 'It holds',
  amended: 'Amended: a record behind it was changed since',
  lapsed: 'Lapsed',
  withdrawn: 'Withdrawn',
};

/** What stays when a person is erased, and why: for whoever decides it. */
export const ERASURE_STAYS: readonly string[] = [
  'What was scored: values, verdicts, points and losses, without the name. Pass rates and statistics of classes rest on it.',
  'The signed records and their chain, so that it can still be checked that no record was changed. Notes and reasons stand in it by salted digests only, which give no text back.',
  'Notes that this person wrote about the work of others: they belong to the records of those others.',
  'The trail of what was done, without the name.',
  'Pictures that are also pictures of somebody else’s work.',
  'Backups and files that were taken out before: they keep the name until they are deleted.',
];

/** What another program is told of. */
export const TOLD_EVENT_WORDS: Readonly<Record<ToldEvent, string>> = {
  'piece.signed': 'A piece was signed',
  'piece.amended': 'A signed piece was amended',
  'trainee.signed_off': 'A trainee was signed off',
  'certificate.issued': 'A certificate was issued',
  'certificate.withdrawn': 'A certificate was withdrawn',
};
export const RECEIVER_KIND_WORDS: Readonly<Record<ReceiverKind, string>> = {
  webhook: 'Webhook',
  xapi: 'Record store',
};

/** How far a right reaches, as a cell of its table. */
export const REACH_WORDS: Readonly<Record<Reach, string>> = {
  all: 'yes',
  own_classes: 'in the own classes',
  own: 'for themselves',
  no: 'no',
};
