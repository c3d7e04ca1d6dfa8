import type { Outcome } from '@clear-mark/core';
import { digestOf } from '../chain/index.ts';

export interface HashedRecord {
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
  readonly entryIds: readonly string[];
  readonly entriesDigest: string;
  readonly scoringVersion: number;
  readonly outcome: Outcome;
  readonly reasonDigest: string | null;
  readonly previousHash: string | null;
}

/** SHA-256 over the canonical JSON of a signed record, the hash of the one before it included. */
export function revisionHash(record: HashedRecord): string {
  return digestOf(record);
}
