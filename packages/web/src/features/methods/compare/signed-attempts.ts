import type { SignedAttempt } from '@clear-mark/core';
import { type SignedHead, signedPages } from '../../../api/replay.ts';

/** The newest signed attempts of a method in a class, with whose they are. */
export interface SignedOfMethod {
  readonly signed: readonly SignedAttempt[];
  readonly heads: ReadonlyMap<string, SignedHead>;
}

/** Reads all pages, since the oldest come first, and keeps the newest `most`. */
export async function signedOfMethod(classId: string, method: string, most: number): Promise<SignedOfMethod> {
  const heads = new Map<string, SignedHead>();
  let signed: SignedAttempt[] = [];
  for await (const { attempts } of signedPages(classId, { method })) {
    for (const { attempt, head } of attempts) heads.set(attempt.id, head);
    signed = [...signed, ...attempts].slice(-most);
  }
  return { signed, heads };
}
