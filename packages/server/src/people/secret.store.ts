import { randomBytes } from 'node:crypto';
import type { Database } from '../database/database.ts';

/** The secret that signs session cookies lives in the database: every server process has the same. */
export async function sessionSecret(db: Database): Promise<string> {
  await db('server_secret')
    .insert({ only_one: true, secret: randomBytes(32).toString('hex') })
    .onConflict('only_one')
    .ignore();
  const row = await db('server_secret').select('secret').first<{ secret: string }>();
  return row!.secret;
}
