import type { AttemptLink, MethodSheet, PracticeChoices } from '@clear-mark/core';
import type { NewAttemptBody, Person } from '@clear-mark/contract';
import { linkOfAttempt } from '@clear-mark/methods';
import { classesStore, classForInstructor, linksStore } from '../classes/index.ts';
import { clockOffsetMs, corrected, heldBetween } from '../clock/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { FOREIGN_KEY_VIOLATION, sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { takeStock } from '../stock/index.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';

export const startService = (db: Database) => ({
  /** Starts a piece. Sent again it is no harm; with other content it is refused. */
  start: async (classId: string, body: NewAttemptBody, me: Person, now: Date): Promise<void> => {
    try {
      await oneAtATime(db, 'class', classId, (trx) => startWithin(trx, classId, body, me, now));
    } catch (error) {
      if (sqlStateOf(error) === FOREIGN_KEY_VIOLATION) throw new AppError('attempt.thing_not_in_class');
      if (sqlStateOf(error) === UNIQUE_VIOLATION) {
        // The same id in another class.
        const other = await attemptsStore(db).byId(body.id);
        if (other) return requireSame(db, other, classId, body);
      }
      throw error;
    }
  },
});

async function startWithin(
  trx: Database,
  classId: string,
  body: NewAttemptBody,
  me: Person,
  now: Date,
): Promise<void> {
  const classes = classesStore(trx);
  const { schools } = await classForStart(trx, classId, body.traineeId, me);
  const before = await attemptsStore(trx).byId(body.id);
  if (before) return requireSame(trx, before, classId, body);
  if ((await classes.memberRole(classId, body.traineeId)) !== 'trainee') {
    throw new AppError('attempt.trainee_not_in_class');
  }
  const inUse = (await classes.methods(classId)).some((m) => m.versionId === body.methodVersionId && m.inUse);
  const version = inUse ? await methodVersion(trx, body.methodVersionId) : null;
  if (!version) throw new AppError('attempt.method_not_in_use');
  await requireRoom(trx, body.traineeId, me);
  const offset = clockOffsetMs(body.sentAt, now);
  const began = await classes.beganAt(classId);
  const started = heldBetween(corrected(body.startedAt, offset), began, now);
  await attemptsStore(trx).insert({
    ...body,
    classId,
    pieceKind: version.sheet.pieceKind,
    startedAt: started.at,
    claimedStartedAt: started.claimed,
    clockOffsetMs: offset,
    startedBy: me.id,
    schools: ownPractice(version.sheet, schools),
    link: await linkFor(trx, classId, body.linkId ?? null),
  });
  const { id, thingIds } = body;
  await takeStock(trx, classId, { id, thingIds, methodId: version.sheet.id }, now);
}

/** Open attempts of one trainee, and starts a minute by one person: more is a slip or an attack. */
const MOST_OPEN = 40;
const MOST_STARTS = 120;
const MOST_OWN_STARTS = 10;

/** Errors: `attempt.too_many_open`, `attempt.too_many_starts`. */
async function requireRoom(db: Database, traineeId: string, me: Person): Promise<void> {
  const { open, lately } = await attemptsStore(db).load(traineeId, me.id);
  if (open >= MOST_OPEN) throw new AppError('attempt.too_many_open', { most: MOST_OPEN });
  if (lately >= (me.role === 'trainee' ? MOST_OWN_STARTS : MOST_STARTS)) {
    throw new AppError('attempt.too_many_starts');
  }
}

/** The class, for an instructor of it or for a trainee of it who starts an own piece. Error: `auth.not_in_class`. */
async function classForStart(db: Database, classId: string, traineeId: string, me: Person) {
  if (me.role !== 'trainee') return classForInstructor(db, classId, me);
  const found = await classesStore(db).byId(classId);
  if (!found) throw new AppError('not_found.class');
  const isMember = (await classesStore(db).memberRole(classId, me.id)) === 'trainee';
  if (!isMember || traineeId !== me.id) throw new AppError('auth.not_in_class');
  return found;
}

/** The link as the attempt keeps it. Errors: `attempt.link_not_in_class`, `loss.bad_link`. */
async function linkFor(db: Database, classId: string, linkId: string | null): Promise<AttemptLink | null> {
  if (linkId === null) return null;
  const link = await linksStore(db).byId(classId, linkId);
  if (!link) throw new AppError('attempt.link_not_in_class');
  return linkOfAttempt(link);
}

/** Of a class's choices those that this sheet has, as they are kept with the attempt. */
function ownPractice(sheet: MethodSheet, chosen: PracticeChoices): PracticeChoices {
  const own = (sheet.schools ?? []).filter((s) => chosen[s.id] !== undefined && chosen[s.id] !== s.default);
  return Object.fromEntries(own.map((s) => [s.id, chosen[s.id]!]));
}

/** The same attempt sent again is no harm; another one under the same id is refused. */
async function requireSame(
  db: Database,
  there: AttemptRow,
  classId: string,
  body: NewAttemptBody,
): Promise<void> {
  const picked = new Set(body.thingIds);
  // What it took of the stock by itself was not picked.
  const things = (await attemptsStore(db).thingIds(there.id))
    .filter((t) => picked.has(t.id) || !t.isTaken)
    .map((t) => t.id);
  const same =
    there.classId === classId &&
    there.traineeId === body.traineeId &&
    there.methodVersionId === body.methodVersionId &&
    there.pieceId === body.pieceId &&
    things.join() === [...body.thingIds].sort().join();
  if (!same) throw new AppError('attempt.other_content');
}
