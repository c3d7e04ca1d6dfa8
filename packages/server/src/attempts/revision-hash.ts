import type { Outcome } from '@clear-mark/core';
import { canonicalRow, digestOf, sha256 } from '../chain/index.ts';
import type { Evidence } from './evidence.store.ts';

interface Common {
  readonly classId: string;
  readonly classSeq: number;
  readonly attemptId: string;
  readonly traineeId: string;
  readonly pieceId: string;
  readonly methodVersionId: string;
  readonly methodDigest: string;
  readonly revision: number;
  readonly kind: string;
  readonly signedBy: string;
  readonly signedAt: string;
  readonly entriesDigest: string;
  readonly scoringVersion: number;
  readonly outcome: Outcome;
  readonly reasonDigest: string | null;
  readonly previousHash: string | null;
}
/** As it was first: the ids of all entries, without who delivered them and what else the outcome rests on. */
export type HashedRecordV1 = Common & { readonly entryIds: readonly string[] };
export type HashedRecordV2 = Common & {
  readonly recordVersion: 2;
  readonly lastSeq: number;
  readonly startedAt: string;
  readonly evidence: Evidence;
};

/** SHA-256 over the canonical JSON of a signed record, the hash of the one before it included. */
export const revisionHash = (record: HashedRecordV1 | HashedRecordV2): string => digestOf(record);

const ENTRY_V1 = [
  'id',
  'seq',
  'kind',
  'criterion_id',
  'part',
  'value',
  'void_reason',
  'note_digest',
  'author_id',
  'capacity',
  'device_id',
  'source',
  'at',
  'supersedes',
  'target_id',
] as const;
const ENTRY_V2 = [...ENTRY_V1, 'clock_offset_ms', 'claimed_at', 'delivered_by'] as const;

const IN_ORDER_V1 = [...ENTRY_V1].sort();
const IN_ORDER_V2 = [...ENTRY_V2].sort();

export type ChainedEntry = Readonly<Record<(typeof ENTRY_V2)[number], unknown>>;
export const CHAINED_COLUMNS = ENTRY_V2;

/** What the hash covers of each entry: all but personal text, which stands by its digest. */
export function entriesDigest(recordVersion: number, entries: readonly ChainedEntry[]): string {
  const columns = recordVersion === 1 ? IN_ORDER_V1 : IN_ORDER_V2;
  // The canonical JSON of the entries with these columns alone, without making each of them anew.
  const texts = entries.map((e) => canonicalRow(columns, e));
  return sha256(`[${texts.join(',')}]`);
}
