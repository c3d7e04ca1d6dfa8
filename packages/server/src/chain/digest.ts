import { createHash, randomBytes } from 'node:crypto';
import { canonicalJson } from './canonical-json.ts';

export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Personal text stands in the chain by a salted digest, so that erasing the text leaves the chain whole. */
export function saltedDigest(text: string, salt: string): string {
  return sha256(`${salt}:${text}`);
}

export const newSalt = (): string => randomBytes(16).toString('hex');

export const digestOf = (value: unknown): string => sha256(canonicalJson(value));
