import knex, { type Knex } from 'knex';
import PostgresDialect from 'knex/lib/dialects/postgres/index.js';
import pg from 'pg';

export type Database = Knex;

/** How long one statement may take before the database gives it up. Counting over a whole school needs seconds. */
const STATEMENT_MS = 20_000;
/** How long the way there and back may take beyond that: a firewall that forgot the connection says nothing. */
const ANSWER_MS = 3000;
const CONNECT_MS = 4000;

/** Settings of every connection: none waits for ever for a database that is gone. */
export const connectionSettings = (
  url: string,
  statementMs = STATEMENT_MS,
  answerMs = statementMs + ANSWER_MS,
) => ({
  connectionString: url,
  keepAlive: true,
  keepAliveInitialDelayMillis: 5000,
  connectionTimeoutMillis: CONNECT_MS,
  statement_timeout: statementMs,
  query_timeout: answerMs,
  idle_in_transaction_session_timeout: 60_000,
  application_name: 'clear-mark',
});

interface Connection {
  __knex__disposed?: unknown;
  readonly connection?: { readonly stream?: { destroy: () => void } };
}
type Base = new (...given: unknown[]) => {
  _query(connection: Connection, query: unknown): Promise<unknown>;
};

/**
 * A connection whose answer did not come in time is given up: whatever is asked on it would wait behind that answer for ever,
 * as after a firewall that forgot it. The pool makes a new one.
 */
class HealingClient extends (PostgresDialect as Base) {
  override async _query(connection: Connection, query: unknown): Promise<unknown> {
    try {
      return await super._query(connection, query);
    } catch (error) {
      if (/Query read timeout/.test(String((error as Error | null)?.message))) {
        connection.__knex__disposed = error;
        connection.connection?.stream?.destroy();
      }
      throw error;
    }
  }
}

/**
 * A pool on the school's database; `answerMs` of 0 for connections that rows are copied over, whose end the driver does not
 * see. Every instant comes back as ISO 8601 text in UTC, every day as text.
 */
export function openDatabase(
  url: string,
  poolSize = 8,
  statementMs = STATEMENT_MS,
  answerMs = statementMs + ANSWER_MS,
): Database {
  return knex({
    client: HealingClient as unknown as typeof knex.Client,
    connection: { ...connectionSettings(url, statementMs, answerMs), types: { getTypeParser } },
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
