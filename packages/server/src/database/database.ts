import knex, { type Knex } from 'knex';
import pg from 'pg';

export type Database = Knex;

/** How long one statement may take before the database gives it up. Counting over a whole school needs seconds. */
const STATEMENT_MS = 60_000;
/** How long the way there and back may take beyond that: a firewall that forgot the connection says nothing. */
const ANSWER_MS = 8000;
const CONNECT_MS = 4000;

/** Settings of every connection: none waits for ever for a database that is gone. */
export const connectionSettings = (url: string, statementMs = STATEMENT_MS) => ({
  connectionString: url,
  keepAlive: true,
  keepAliveInitialDelayMillis: 5000,
  connectionTimeoutMillis: CONNECT_MS,
  statement_timeout: statementMs,
  query_timeout: statementMs + ANSWER_MS,
  idle_in_transaction_session_timeout: 60_000,
  application_name: 'clear-mark',
});

/** A pool on the school's database. Every instant comes back as ISO 8601 text in UTC, every day as text. */
export function openDatabase(url: string, poolSize = 8, statementMs = STATEMENT_MS): Database {
  return knex({
    client: 'pg',
    connection: { ...connectionSettings(url, statementMs), types: { getTypeParser } },
    pool: { min: 0, max: poolSize, idleTimeoutMillis: 20_000 },
    acquireConnectionTimeout: 10_000,
  });
}

const TIMESTAMPTZ = 1184;
const DATE = 1082;
const INT8 = 20;
const NUMERIC = 1700;

export function getTypeParser(oid: number, format?: string): (text: string) => unknown {
  if (oid === TIMESTAMPTZ) return (text) => new Date(text).toISOString();
  if (oid === DATE) return (text) => text;
  if (oid === INT8 || oid === NUMERIC) return Number;
  return defaults(oid, format);
}

const defaults = pg.types.getTypeParser as (oid: number, format?: string) => (text: string) => unknown;
