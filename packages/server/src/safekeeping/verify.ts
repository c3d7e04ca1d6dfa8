import { setImmediate } from 'node:timers/promises';
import type { Finding } from '@clear-mark/contract';
import {
  type ChainedEntry,
  entriesDigest,
  type Evidence,
  evidenceStore,
  minutesOf,
  outcomeRows,
  type OutcomeRows,
  revisionHash,
} from '../attempts/index.ts';
import { canonicalJson, saltedDigest } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { sheetDigest, sheetOfAttempt } from '../methods/index.ts';
import { type ChainHead, type RevisionToCheck, verifyStore } from './verify.store.ts';

/** A head of a chain as it was kept somewhere else: it has to be found again at its place. */
export interface Anchor {
  readonly classId: string;
  readonly classSeq: number;
  readonly hash: string;
  /** Where it was kept, for reading: `backup of 2026-11-28`. */
  readonly from: string;
}
export interface Verified {
  readonly revisions: number;
  readonly anchors: number;
  readonly findings: readonly Finding[];
}

/** Revisions whose rows are read together. Others have the process between any two revisions. */
const PAGE = 50;
/** What is listed; a chain that broke is broken from there on. */
const MOST_FINDINGS = 200;

/**
 * Recomputes every chain from the first revision on and names what does not fit, by class and by place: a link, a digest of
 * entries, a note or a reason, evidence that changed, an attempt without its revision, a head that was anchored elsewhere
 * and is gone, a derived row that its revision does not give. Reads only.
 */
export async function verifyRecords(
  db: Database,
  anchors: readonly Anchor[],
  onProgress: (revisions: number) => void = () => undefined,
): Promise<Verified> {
  const store = verifyStore(db);
  const findings: Finding[] = [];
  let revisions = 0;
  for (const head of await store.heads()) {
    const found = await verifyClass(db, head, (n) => onProgress(revisions + n));
    revisions += found.revisions;
    findings.push(...found.findings);
  }
  for (const { classId, classSeq } of await store.headsBehind()) {
    const nobody = { attemptId: null, pieceLabel: null, traineeName: null, from: null };
    findings.push({ kind: 'head_behind', classId, classSeq, ...nobody });
  }
  for (const { attemptId, classId, pieceLabel, traineeName } of await store.signedWithoutRevision()) {
    findings.push({
      kind: 'revision_missing',
      classId,
      classSeq: null,
      attemptId,
      pieceLabel,
      traineeName,
      from: null,
    });
  }
  for (const anchor of anchors) {
    const { classId, classSeq, hash, from } = anchor;
    if (classSeq === 0 || (await store.hashAt(classId, classSeq)) === hash) continue;
    const nobody = { attemptId: null, pieceLabel: null, traineeName: null };
    findings.push({ kind: 'anchor_lost', classId, classSeq, ...nobody, from });
  }
  return { revisions, anchors: anchors.length, findings: findings.slice(0, MOST_FINDINGS) };
}

async function verifyClass(
  db: Database,
  head: ChainHead,
  onProgress: (revisions: number) => void,
): Promise<{ revisions: number; findings: Finding[] }> {
  const store = verifyStore(db);
  const findings: Finding[] = [];
  let [lastSeq, lastHash]: [number, string | null] = [0, null];
  let revisions = 0;
  for (;;) {
    const page = await store.page(head.classId, lastSeq, head.lastSeq, PAGE);
    if (page.length === 0) break;
    const ids = page.map((r) => r.attemptId);
    const entries = await store.entriesOf(ids);
    const notes = await store.notesOf(ids);
    const outcomes = await store.outcomesOf(ids);
    const evidence = await evidenceNow(db, page);
    for (const revision of page) {
      await setImmediate();
      const say = (kind: Finding['kind']): void => void findings.push(findingOf(kind, revision));
      const own = entriesUnder(revision, entries.get(revision.attemptId) ?? []);
      if (revision.classSeq !== lastSeq + 1) say('gap');
      if (revision.previousHash !== lastHash) say('link_broken');
      if (!(await hashHolds(db, revision, own))) say('record_changed');
      if (
        revision.reason !== null &&
        saltedDigest(revision.reason, revision.reasonSalt!) !== revision.reasonDigest
      ) {
        say('reason_changed');
      }
      const itsNotes = notes.filter((n) => n.attemptId === revision.attemptId);
      if (itsNotes.some((n) => saltedDigest(n.text, n.salt) !== n.digest)) say('note_changed');
      if (!evidence(revision)) {
        say('evidence_changed');
      }
      if (revision.newest && !(await derivedFits(db, revision, own, outcomes(revision.attemptId)))) {
        say('derived_differs');
      }
      [lastSeq, lastHash] = [revision.classSeq, revision.hash];
      revisions += 1;
    }
    onProgress(revisions);
  }
  if (head.lastSeq !== lastSeq || head.lastHash !== lastHash) {
    const nobody = { attemptId: null, pieceLabel: null, traineeName: null, from: null };
    findings.push({ kind: 'tail_missing', classId: head.classId, classSeq: lastSeq + 1, ...nobody });
  }
  return { revisions, findings };
}

/**
 * The entries that a revision was signed from. Of the newest all that lie there: none may come after it. Earlier ones have
 * those up to theirs, or those that they name.
 */
function entriesUnder(r: RevisionToCheck, all: readonly ChainedEntry[]): readonly ChainedEntry[] {
  if (r.newest) return all;
  if (r.recordVersion === 1) return all.filter((e) => r.entryIds!.includes(String(e.id)));
  return all.filter((e) => Number(e.seq) <= r.lastSeq!);
}

const findingOf = (kind: Finding['kind'], r: RevisionToCheck): Finding => ({
  kind,
  classId: r.classId,
  classSeq: r.classSeq,
  attemptId: r.attemptId,
  pieceLabel: r.pieceLabel,
  traineeName: r.traineeName,
  from: null,
});

/** The digest of the entries as they lie there now, and over it the hash of the whole record. */
async function hashHolds(
  db: Database,
  r: RevisionToCheck,
  entries: readonly ChainedEntry[],
): Promise<boolean> {
  const digest = entriesDigest(r.recordVersion, entries);
  const sheet = await sheetOfAttempt(db, r);
  const common = {
    classId: r.classId,
    classSeq: r.classSeq,
    attemptId: r.attemptId,
    traineeId: r.traineeId,
    pieceId: r.pieceId,
    methodVersionId: r.methodVersionId,
    methodDigest: sheetDigest(sheet),
    revision: r.revision,
    kind: r.kind,
    signedBy: r.signedBy,
    signedAt: r.signedAt,
    entriesDigest: digest,
    scoringVersion: r.scoringVersion,
    outcome: r.outcome,
    reasonDigest: r.reasonDigest,
    previousHash: r.previousHash,
  };
  const hash =
    r.recordVersion === 1
      ? revisionHash({ ...common, entryIds: entries.map((e) => String(e.id)) })
      : revisionHash({
          ...common,
          recordVersion: 2,
          lastSeq: entries.length,
          startedAt: r.startedAt,
          evidence: r.evidence!,
        });
  return digest === r.entriesDigest && hash === r.hash;
}

/** Whether each reference, change, picture and grading that a record of a page names is there as the record names it. */
async function evidenceNow(
  db: Database,
  page: readonly RevisionToCheck[],
): Promise<(revision: RevisionToCheck) => boolean> {
  const store = evidenceStore(db);
  const there = await store.asOf(
    page.map((r) => r.attemptId),
    '2099-12-31T00:00:00.000Z',
  );
  const named = page.flatMap((r) => r.evidence?.faces.flatMap((f) => f.grading?.id ?? []) ?? []);
  const gradings = await store.gradings(named);
  return ({ attemptId, evidence: was }) => {
    const now = there.get(attemptId);
    if (was === null) return true;
    return (
      was.references.every((r) => hasReference(now, r)) && was.faces.every((f) => hasFace(now, f, gradings))
    );
  };
}

function hasReference(now: Evidence | undefined, was: Evidence['references'][number]): boolean {
  const there = now?.references.find((r) => r.id === was.id);
  if (!there) return false;
  const { changes, ...head } = was;
  const { changes: changesNow, ...headNow } = there;
  return (
    canonicalJson(head) === canonicalJson(headNow) &&
    changes.every((c) => changesNow.some((x) => canonicalJson(x) === canonicalJson(c)))
  );
}

function hasFace(
  now: Evidence | undefined,
  was: Evidence['faces'][number],
  gradings: ReadonlyMap<string, string | null>,
): boolean {
  const there = now?.faces.find((f) => f.id === was.id);
  const graded = was.grading === null || gradings.get(was.grading.id) === was.grading.verdict;
  return there?.sha256 === was.sha256 && there.engineVerdict === was.engineVerdict && graded;
}

async function derivedFits(
  db: Database,
  r: RevisionToCheck,
  entries: readonly ChainedEntry[],
  there: OutcomeRows,
): Promise<boolean> {
  const wanted = await derivedOf(db, r, entries);
  return (['skills', 'criteria', 'losses'] as const).every(
    (table) => comparable(wanted[table]) === comparable(there[table]),
  );
}

/** The derived rows that a revision gives. */
export async function derivedOf(
  db: Database,
  r: RevisionToCheck,
  entries: readonly ChainedEntry[],
): Promise<OutcomeRows> {
  const attempt = { ...r, id: r.attemptId };
  return outcomeRows(attempt, await sheetOfAttempt(db, r), r.outcome, minutesOf(r.startedAt, entries));
}

/** Rows without their order, and minutes as the column rounds them. */
const comparable = (rows: readonly Record<string, unknown>[]): string =>
  rows
    .map((row) => canonicalJson('minutes' in row ? { ...row, minutes: rounded(row['minutes']) } : row))
    .sort()
    .join('\n');
const rounded = (minutes: unknown): unknown =>
  typeof minutes === 'number' ? Number(Math.fround(minutes).toPrecision(6)) : minutes;
