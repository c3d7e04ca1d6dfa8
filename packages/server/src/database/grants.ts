import type { Database } from './database.ts';

/** What is written once and then only read: the application may add to it and nothing else. */
const APPEND_ONLY = [
  'entries',
  'readings',
  'unmerged_entries',
  'loss_references',
  'reference_changes',
  'cord_checks',
  'entry_confirmations',
  'faces',
  'face_gradings',
  'face_tables',
  'school_tables',
  'call_items',
  'call_answers',
  'amendment_notices',
  'daily_heads',
  'audit_events',
  'late_decisions',
  'thing_events',
  'attempt_uses',
  'measured_pictures',
  'certificates',
  'certificate_withdrawals',
];
/** Rows whose personal text may be erased, and that are never deleted. */
const NEVER_DELETED = [
  'signed_revisions',
  'attempts',
  'pieces',
  'sign_offs',
  'people',
  'classes',
  'class_chains',
];
/** Where the queue of jobs keeps itself. */
export const QUEUE_SCHEMA = 'job_queue';
/** What the application only reads. */
const READ_ONLY = ['schema_migrations'];

/** Functions that do one thing with the rights of their owner, for the application alone. */
const FUNCTIONS = ['erase_texts_of(uuid, text, text[])'];

/**
 * Gives the application's role what it needs and no more: it owns nothing, so it can truncate no table, switch no
 * trigger off and change no schema. `role` is the user name of the application's address.
 */
export async function grantToApplication(owner: Database, role: string): Promise<void> {
  await owner.raw('grant usage on schema public to ??', [role]);
  await owner.raw('grant select, insert, update, delete on all tables in schema public to ??', [role]);
  await owner.raw('grant usage, select on all sequences in schema public to ??', [role]);
  await grantQueue(owner, role);
  const there = new Set<string>(
    (
      await owner.raw(`select table_name from information_schema.tables where table_schema = 'public'`)
    ).rows.map((r: { table_name: string }) => r.table_name),
  );
  for (const [tables, rights] of [
    [APPEND_ONLY, 'update, delete'],
    [NEVER_DELETED, 'delete'],
    [READ_ONLY, 'insert, update, delete'],
  ] as const) {
    for (const table of tables.filter((t) => there.has(t))) {
      await owner.raw(`revoke ${rights} on ?? from ??`, [table, role]);
    }
  }
  for (const signature of FUNCTIONS) {
    const { rows } = await owner.raw('select to_regprocedure(?) is not null as there', [signature]);
    if (rows[0].there) await owner.raw(`grant execute on function ${signature} to ??`, [role]);
  }
}

/** The application adds jobs, takes and ends them; the shape of the queue is its owner's. */
async function grantQueue(owner: Database, role: string): Promise<void> {
  const { rows } = await owner.raw('select 1 from pg_namespace where nspname = ?', [QUEUE_SCHEMA]);
  if (rows.length === 0) return;
  await owner.raw('grant usage on schema ?? to ??', [QUEUE_SCHEMA, role]);
  await owner.raw('grant select, insert, update, delete on all tables in schema ?? to ??', [
    QUEUE_SCHEMA,
    role,
  ]);
}
