import {
  type LossReference,
  type MethodSheet,
  type PackedEntry,
  type ReplayedAttempt,
  type SignedAttempt,
  unpackEntries,
} from '@clear-mark/core';
import { type ReplayPage, ROUTES } from '@clear-mark/contract';
import { request } from '../../../api/client.ts';

/** The newest signed attempts of a method in a class, with whose they are. */
export interface SignedOfMethod {
  readonly signed: readonly SignedAttempt[];
  readonly heads: ReadonlyMap<string, { readonly traineeName: string; readonly pieceLabel: string }>;
}

/** Asks page after page, the oldest first, and keeps the newest `most`. */
export async function signedOfMethod(classId: string, method: string, most: number): Promise<SignedOfMethod> {
  const sheets = new Map<string, MethodSheet>();
  const heads = new Map<string, { traineeName: string; pieceLabel: string }>();
  let signed: SignedAttempt[] = [];
  let after: string | undefined;
  do {
    const query = { method, ...(after === undefined ? {} : { after }) } as never;
    const page: ReplayPage = await request(ROUTES.replay, { params: { id: classId }, query });
    for (const v of page.versions) if (!sheets.has(v.id)) sheets.set(v.id, v.sheet);
    const references = new Map((page.references as LossReference[]).map((r) => [r.id, r]));
    for (const { traineeName, pieceLabel, ...rest } of page.attempts) {
      const entries = unpackEntries(rest.entries as PackedEntry[]);
      const ids = entries.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : []));
      heads.set(rest.id, { traineeName, pieceLabel });
      signed.push({
        attempt: { ...rest, entries } as ReplayedAttempt,
        sheet: sheets.get(rest.versionId)!,
        references: [...new Set(ids)].flatMap((id) => references.get(id) ?? []),
      });
    }
    signed = signed.slice(-most);
    after = page.next ?? undefined;
  } while (after !== undefined);
  return { signed, heads };
}
