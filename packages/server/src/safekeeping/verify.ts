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
import { methodVersion, sheetDigest, sheetOfAttempt } from '../methods/index.ts';
import { type ChainHead, type RevisionToCheck, verifyStore } from './verify.store.ts';

/** A head of a chain as it was kept somewhere else: it has to be found again at its place. */
export interface Anchor {
  readonly classId: string;
  readonly classSeq: number;
  readonly hash: string;
  /** Where it was kept, for reading: `backup of 2026-11-28`. */
  readonly from: string;
}
export interface VerifyOptions {
  /** One class instead of all. */
  readonly classId?: string;
  /** Derived rows are not there yet: they are given out page by page instead of being compared. */
  readonly layOut?: (rows: readonly OutcomeRows[]) => Promise<void>;
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
 * and is gone, a derived row that its revision does not give. Reads only. All classes, or the one that is named.
 */
export async function verifyRecords(
  db: Database,
  anchors: readonly Anchor[],
  { classId, layOut }: VerifyOptions = {},
): Promise<Verified> {
  const store = verifyStore(db);
  const wanted = (row: { readonly classId: string }): boolean =>
    classId === undefined || row.classId === classId;
  const findings: Finding[] = [];
  let revisions = 0;
  for (const head of (await store.heads()).filter(wanted)) {
    const found = await verifyClass(db, head, layOut);
    revisions += found.revisions;
    findings.push(...found.findings);
  }
  for (const { classId: of, classSeq } of (await store.headsBehind()).filter(wanted)) {
    const nobody = { attemptId: null, pieceLabel: null, traineeName: null, from: null };
    findings.push({ kind: 'head_behind', classId: of, classSeq, ...nobody });
  }
  for (const signed of (await store.signedWithoutRevision()).filter(wanted)) {
    findings.push({ kind: 'revision_missing', ...signed, classSeq: null, from: null });
  }
  for (const anchor of anchors) {
    const { hash, ...place } = anchor;
    if (place.classSeq === 0 || (await store.hashAt(place.classId, place.classSeq)) === hash) continue;
    findings.push({ kind: 'anchor_lost', ...place, attemptId: null, pieceLabel: null, traineeName: null });
  }
  return { revisions, anchors: anchors.length, findings: findings.slice(0, MOST_FINDINGS) };
}

interface LoadedPage {
  readonly revisions: readonly RevisionToCheck[];
  readonly entries: ReadonlyMap<string, readonly ChainedEntry[]>;
  readonly notes: readonly { attemptId: string; digest: string | null; salt: string; text: string }[];
  readonly outcomes: (attemptId: string) => OutcomeRows | null;
  readonly evidence: (revision: RevisionToCheck) => boolean;
}

/** All that a page of revisions needs of the database: it is fetched while the page before is worked out. */
async function loadPage(
  db: Database,
  head: ChainHead,
  after: number,
  withOutcomes: boolean,
): Promise<LoadedPage> {
  const store = verifyStore(db);
  const revisions = await store.page(head.classId, after, head.lastSeq, PAGE);
  const ids = revisions.map((r) => r.attemptId);
  for (const id of new Set(revisions.map((r) => r.methodVersionId))) await methodVersion(db, id);
  const entries = await store.entriesOf(ids);
  const notes = await store.notesOf(ids);
  const outcomes = withOutcomes ? await store.outcomesOf(ids) : () => null;
  return { revisions, entries, notes, outcomes, evidence: await evidenceNow(db, revisions) };
}

async function verifyClass(
  db: Database,
  head: ChainHead,
  layOut: VerifyOptions['layOut'],
): Promise<{ revisions: number; findings: Finding[] }> {
  const findings: Finding[] = [];
  let [lastSeq, lastHash]: [number, string | null] = [0, null];
  let revisions = 0;
  /** What the database does while a page is worked out. */
  const laidOutAndLoaded = async (rows: readonly OutcomeRows[], after: number): Promise<LoadedPage> => {
    await layOut?.(rows);
    return loadPage(db, head, after, !layOut);
  };
  let derived: OutcomeRows[] = [];
  for (let page = await loadPage(db, head, 0, !layOut); page.revisions.length > 0;) {
    const next = laidOutAndLoaded(derived, page.revisions.at(-1)!.classSeq);
    next.catch(() => undefined); // It is looked at below.
    derived = [];
    for (const revision of page.revisions) {
      await setImmediate();
      const say = (kind: Finding['kind']): void => void findings.push(findingOf(kind, revision));
      const own = entriesUnder(revision, page.entries.get(revision.attemptId) ?? []);
      if (revision.classSeq !== lastSeq + 1) say('gap');
      if (revision.previousHash !== lastHash) say('link_broken');
      if (!(await hashHolds(db, revision, own))) say('record_changed');
      if (
        revision.reason !== null &&
        saltedDigest(revision.reason, revision.reasonSalt!) !== revision.reasonDigest
      ) {
        say('reason_changed');
      }
      const itsNotes = page.notes.filter((n) => n.attemptId === revision.attemptId);
      if (itsNotes.some((n) => saltedDigest(n.text, n.salt) !== n.digest)) say('note_changed');
      if (!page.evidence(revision)) say('evidence_changed');
      if (revision.newest) {
        const rows = await derivedOf(db, revision, own);
        const there = page.outcomes(revision.attemptId);
        if (there !== null && !sameOutcome(rows, there)) say('derived_differs');
        derived.push(rows);
      }
      [lastSeq, lastHash] = [revision.classSeq, revision.hash];
      revisions += 1;
    }
    page = await next;
  }
  await layOut?.(derived);
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
export async function recordHash(
  db: Database,
  r: RevisionToCheck,
  entries: readonly ChainedEntry[],
): Promise<{ readonly entriesDigest: string; readonly hash: string }> {
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
  return { entriesDigest: digest, hash };
}

async function hashHolds(
  db: Database,
  r: RevisionToCheck,
  entries: readonly ChainedEntry[],
): Promise<boolean> {
  const now = await recordHash(db, r, entries);
  return now.entriesDigest === r.entriesDigest && now.hash === r.hash;
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
      was.references.every((r) => hasReference(now, r)) &&
      was.faces.every((f) => hasFace(now, f, gradings)) &&
      (was.pictures ?? []).every((p) =>
        (now?.pictures ?? []).some((x) => canonicalJson(x) === canonicalJson(p)),
      )
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

const sameOutcome = (wanted: OutcomeRows, there: OutcomeRows): boolean =>
  (['skills', 'criteria', 'losses'] as const).every(
    (table) => comparable(wanted[table]) === comparable(there[table]),
  );

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
