import { dictionary } from '@zxcvbn-ts/language-common';
import { AppError } from '../errors/app-error.ts';

/** Fewest characters of a password (NIST SP 800-63B asks for 8 at least, OWASP ASVS 4.0 for 12 or a check of lists). */
export const LEAST_PASSWORD = 10;

/** The shipped list of passwords that are tried first, short ones left out: the length refuses those. */
const COMMON: ReadonlySet<string> = new Set(
  (dictionary['passwords-common'] as readonly (string | number)[])
    .map((word) => String(word).toLowerCase())
    .filter((word) => word.length >= 6),
);
const LEAST_NAME = 4;

/**
 * Refuses what is guessed first: too short, on the list of common passwords (also when repeated or with digits or signs put
 * at its ends), or with the person's own name in it. Errors: `auth.weak_password`, `auth.common_password`,
 * `auth.own_name_password`.
 */
export function requireGoodPassword(password: string, person: { name: string; login: string }): void {
  if ([...password].length < LEAST_PASSWORD)
    throw new AppError('auth.weak_password', { least: LEAST_PASSWORD });
  const lower = password.toLowerCase();
  const own = [person.login, ...person.name.split(/\s+/)]
    .map((part) => part.toLowerCase())
    .filter((part) => part.length >= LEAST_NAME);
  if (own.some((part) => lower.includes(part))) throw new AppError('auth.own_name_password');
  if (isCommon(lower)) throw new AppError('auth.common_password');
}

function isCommon(lower: string): boolean {
  const core = lower.replace(/^[^a-z]+|[^a-z]+$/g, '');
  if (COMMON.has(lower) || (core.length >= 6 && lower.length - core.length <= 4 && COMMON.has(core)))
    return true;
  if (new Set(lower).size <= 3) return true;
  const half = lower.slice(0, lower.length / 2);
  return lower.length % 2 === 0 && half + half === lower && COMMON.has(half);
}
