import type { AttemptLink, Outcome, PracticeChoices } from '@clear-mark/core';
import type { ChainedEntry, Evidence } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';

export interface ChainHead {
  readonly classId: string;
  readonly className: string;
  readonly lastSeq: number;
  readonly lastHash: string | null;
}
/** A signed revision with what its attempt was started with. */
export interface RevisionToCheck {
  readonly attemptId: string;
  readonly classId: string;
  readonly traineeId: string;
  readonly pieceId: string;
  readonly methodVersionId: string;
  readonly startedAt: string;
  readonly schools: PracticeChoices;
  readonly link: AttemptLink | null;
  readonly state: string;
  readonly pieceLabel: string;
  readonly traineeName: string;
  readonly recordVersion: number;
  readonly revision: number;
  readonly newest: boolean;
  readonly kind: string;
  readonly classSeq: number;
  readonly signedBy: string;
  readonly signedAt: string;
  readonly entryIds: readonly string[] | null;
  readonly lastSeq: number | null;
  readonly entriesDigest: string;
  readonly evidence: Evidence | null;
  readonly scoringVersion: number;
  readonly outcome: Outcome;
  readonly reason: string | null;
  readonly reasonSalt: string | null;
  readonly reasonDigest: string | null;
  readonly previousHash: string | null;
  readonly hash: string;
}

const REVISION = `r.attempt_id as "attemptId", r.class_id as "classId", a.trainee_id as "traineeId",
  a.piece_id as "pieceId", a.method_version_id as "methodVersionId", a.started_at as "startedAt", a.schools, a.link,
  a.state, i.label as "pieceLabel", p.name as "traineeName", r.record_version as "recordVersion", r.revision,
  r.revision = (select max(revision) from signed_revisions m where m.attempt_id = r.attempt_id) as newest,
  r.kind, r.class_seq as "classSeq", r.signed_by as "signedBy", r.signed_at as "signedAt",
  r.entry_ids as "entryIds", r.last_seq as "lastSeq", r.entries_digest as "entriesDigest", r.evidence,
  r.scoring_version as "scoringVersion", r.outcome, r.reason, r.reason_salt as "reasonSalt",
  r.reason_digest as "reasonDigest", r.previous_hash as "previousHash", r.hash`;

const OUTCOME_TABLES = ['outcome_skills', 'outcome_criteria', 'outcome_losses'] as const;

export const verifyStore = (db: Database) => {
  const rows = async <T>(sql: string, bindings: readonly unknown[] = []): Promise<T[]> =>
    (await db.raw(sql, bindings as never)).rows as T[];
  return {
    heads: () =>
      rows<ChainHead>(
        `select c.id as "classId", c.name as "className", k.next_seq - 1 as "lastSeq", k.last_hash as "lastHash"
           from classes c join class_chains k on k.class_id = c.id order by c.starts_on, c.id`,
      ),

    /** Revisions after one and up to another: what is signed meanwhile is for the next check. */
    page: (classId: string, after: number, upTo: number, size: number) =>
      rows<RevisionToCheck>(
        `select ${REVISION} from signed_revisions r join attempts a on a.id = r.attempt_id
           join pieces i on i.id = a.piece_id join people p on p.id = a.trainee_id
          where r.class_id = ? and r.class_seq > ? and r.class_seq <= ? order by r.class_seq limit ?`,
        [classId, after, upTo, size],
      ),

    entriesOf: async (attemptIds: readonly string[]): Promise<Map<string, ChainedEntry[]>> => {
      const found = await rows<ChainedEntry & { attempt_id: string }>(
        `select attempt_id, id, seq, kind, criterion_id, part, value, void_reason, note_digest, author_id, capacity,
                device_id, source, at, supersedes, target_id, clock_offset_ms, claimed_at, delivered_by
           from entries where attempt_id = any(?::uuid[]) order by attempt_id, seq`,
        [attemptIds],
      );
      return grouped(
        found,
        (r) => r.attempt_id,
        ({ attempt_id: _, ...entry }) => entry as ChainedEntry,
      );
    },

    notesOf: (attemptIds: readonly string[]) =>
      rows<{ attemptId: string; digest: string | null; salt: string; text: string }>(
        `select e.attempt_id as "attemptId", e.note_digest as digest, n.salt, n.text
           from entry_notes n join entries e on e.id = n.entry_id where e.attempt_id = any(?::uuid[])`,
        [attemptIds],
      ),

    /** The derived rows of attempts, as they lie in the tables. */
    outcomesOf: async (attemptIds: readonly string[]) => {
      const tables = new Map<string, Map<string, Record<string, unknown>[]>>();
      for (const table of OUTCOME_TABLES) {
        const found = await rows<Record<string, unknown> & { attempt_id: string }>(
          `select * from ${table} where attempt_id = any(?::uuid[])`,
          [attemptIds],
        );
        tables.set(
          table,
          grouped(
            found,
            (r) => r.attempt_id,
            (r) => r,
          ),
        );
      }
      return (attemptId: string) => ({
        skills: tables.get('outcome_skills')!.get(attemptId) ?? [],
        criteria: tables.get('outcome_criteria')!.get(attemptId) ?? [],
        losses: tables.get('outcome_losses')!.get(attemptId) ?? [],
      });
    },

    /** Attempts that say they are signed and have no revision. */
    signedWithoutRevision: () =>
      rows<{ attemptId: string; classId: string; pieceLabel: string; traineeName: string }>(
        `select a.id as "attemptId", a.class_id as "classId", i.label as "pieceLabel", p.name as "traineeName"
           from attempts a join pieces i on i.id = a.piece_id join people p on p.id = a.trainee_id
          where a.state = 'signed' and not exists (select 1 from signed_revisions r where r.attempt_id = a.id)`,
      ),

    /** Classes whose chain has records beyond its head. */
    headsBehind: () =>
      rows<{ classId: string; classSeq: number }>(
        `select k.class_id as "classId", min(r.class_seq) as "classSeq" from class_chains k
           join signed_revisions r on r.class_id = k.class_id and r.class_seq >= k.next_seq group by k.class_id`,
      ),

    hashAt: async (classId: string, seq: number): Promise<string | null> =>
      (
        await rows<{ hash: string }>(
          'select hash from signed_revisions where class_id = ? and class_seq = ?',
          [classId, seq],
        )
      )[0]?.hash ?? null,
  };
};

function grouped<T, U>(list: readonly T[], key: (row: T) => string, of: (row: T) => U): Map<string, U[]> {
  const map = new Map<string, U[]>();
  for (const row of list) {
    const there = map.get(key(row));
    if (there) there.push(of(row));
    else map.set(key(row), [of(row)]);
  }
  return map;
}
