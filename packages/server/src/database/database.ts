import knex, { type Knex } from 'knex';
import pg from 'pg';

export type Database = Knex;

/** A pool on the school's database. Every instant comes back as ISO 8601 text in UTC, every day as text. */
export function openDatabase(url: string, poolSize = 8): Database {
  return knex({
    client: 'pg',
    connection: { connectionString: url, types: { getTypeParser } },
    pool: { min: 0, max: poolSize },
    acquireConnectionTimeout: 10_000,
  });
}

const TIMESTAMPTZ = 1184;
const DATE = 1082;
const INT8 = 20;
const NUMERIC = 1700;

function getTypeParser(oid: number, format?: string): (text: string) => unknown {
  if (oid === TIMESTAMPTZ) return (text) => new Date(text).toISOString();
  if (oid === DATE) return (text) => text;
  if (oid === INT8 || oid === NUMERIC) return Number;
  return defaults(oid, format);
}

const defaults = pg.types.getTypeParser as (oid: number, format?: string) => (text: string) => unknown;
