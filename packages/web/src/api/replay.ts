import { WHAT_IF_ROUTES, type ReplayPage, type ResultFilter } from '@clear-mark/contract';
import {
  type LossReference,
  type PackedEntry,
  type ReplayedAttempt,
  type SignedAttempt,
  type MethodSheet,
  unpackEntries,
} from '@clear-mark/core';
import { request } from './client.ts';

/** Whose a signed attempt is, for people. */
export interface SignedHead {
  readonly traineeName: string;
  readonly pieceLabel: string;
  readonly startedAt: string;
}
export interface SignedPage {
  /** Of all pages. */
  readonly total: number;
  readonly attempts: readonly (SignedAttempt & { readonly head: SignedHead })[];
}

/** The signed attempts of a class with what scoring needs of them, page after page, the oldest first. */
export async function* signedPages(classId: string, filter: ResultFilter): AsyncGenerator<SignedPage> {
  const sheets = new Map<string, MethodSheet>();
  let after: string | undefined;
  do {
    const query = { ...filter, ...(after === undefined ? {} : { after }) } as never;
    const page: ReplayPage = await request(WHAT_IF_ROUTES.replay, { params: { id: classId }, query });
    for (const v of page.versions) if (!sheets.has(v.id)) sheets.set(v.id, v.sheet);
    const references = new Map((page.references as LossReference[]).map((r) => [r.id, r]));
    const attempts = page.attempts.map(({ traineeName, pieceLabel, ...rest }) => {
      const entries = unpackEntries(rest.entries as PackedEntry[]);
      const ids = entries.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : []));
      return {
        attempt: { ...rest, entries } as ReplayedAttempt,
        sheet: sheets.get(rest.versionId)!,
        references: [...new Set(ids)].flatMap((id) => references.get(id) ?? []),
        head: { traineeName, pieceLabel, startedAt: rest.startedAt },
      };
    });
    yield { total: page.total, attempts };
    after = page.next ?? undefined;
  } while (after !== undefined);
}
