/** PostgreSQL error classes that the services act on. Recognised by SQLSTATE, never by text. */
export const UNIQUE_VIOLATION = '23505';
export const FOREIGN_KEY_VIOLATION = '23503';

/** SQLSTATE of an error from the driver, or null. */
export function sqlStateOf(error: unknown): string | null {
  const code = (error as { code?: unknown } | null)?.code;
  return typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code) ? code : null;
}
