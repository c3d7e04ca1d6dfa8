import type { Criterion, MethodSheet } from '@clear-mark/core';
import type { Person } from '@clear-mark/contract';
import { LRUCache } from 'lru-cache';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { peopleService } from '../people/index.ts';
import { attemptsStore } from './attempts.store.ts';

type MemberRole = 'instructor' | 'trainee';

/** What an attempt was started with and keeps: it is read once. */
export interface AttemptContext {
  readonly id: string;
  readonly classId: string;
  readonly traineeId: string;
  readonly classBegan: Date;
  readonly criteria: ReadonlyMap<string, Criterion>;
}

export interface Author {
  readonly name: string;
  readonly role: Person['role'];
  /** Whether this person may enter something for the attempt at present. */
  readonly mayEnter: boolean;
}

/** Attempts that are remembered: a school at work has a few hundred open. */
const MOST_ATTEMPTS = 2000;
/** How long a membership and a person are taken as they were. A removal is heard of that much later. */
const REMEMBERED_MS = 5000;

/**
 * What has to be known to check entries, read once and remembered: an attempt's class, trainee and sheet never change;
 * who belongs to a class is asked again after seconds, and a refusal is never remembered.
 */
export function attemptContexts(db: Database) {
  const contexts = new LRUCache<string, AttemptContext>({ max: MOST_ATTEMPTS });
  const people = new LRUCache<string, Person>({ max: MOST_ATTEMPTS, ttl: REMEMBERED_MS });
  const members = new LRUCache<string, MemberRole>({ max: MOST_ATTEMPTS, ttl: REMEMBERED_MS });

  async function attempt(id: string): Promise<AttemptContext | null> {
    const known = contexts.get(id);
    if (known) return known;
    const row = await attemptsStore(db).byId(id);
    if (!row) return null;
    const sheet = await sheetOfAttempt(db, row);
    const classBegan = await classesStore(db).beganAt(row.classId);
    const { classId, traineeId } = row;
    const made = { id, classId, traineeId, classBegan, criteria: criteriaOf(sheet) };
    contexts.set(id, made);
    return made;
  }

  const person = (id: string): Promise<Person | null> =>
    remembered(people, id, () => peopleService(db).byId(id));
  const memberRole = (classId: string, id: string): Promise<MemberRole | null> =>
    remembered(members, `${classId} ${id}`, () => classesStore(db).memberRole(classId, id));

  /** Whether this person may see an attempt: its trainee, instructors of its class, the lead. */
  async function sees(context: AttemptContext, me: Person): Promise<boolean> {
    if (context.traineeId === me.id || me.role === 'lead') return true;
    return (await memberRole(context.classId, me.id)) === 'instructor';
  }

  /** Null for nobody, and for a person other than a trainee who sends: a trainee hands in the own entries only. */
  async function author(context: AttemptContext, id: string, me: Person): Promise<Author | null> {
    if (id !== me.id && me.role === 'trainee') return null;
    const found = id === me.id ? me : await person(id);
    if (!found) return null;
    const teaches = found.role === 'lead' || (await memberRole(context.classId, id)) === 'instructor';
    return { name: found.name, role: found.role, mayEnter: teaches || context.traineeId === id };
  }

  return { attempt, sees, author };
}

export type AttemptContexts = ReturnType<typeof attemptContexts>;

const criteriaBySheet = new WeakMap<MethodSheet, ReadonlyMap<string, Criterion>>();

function criteriaOf(sheet: MethodSheet): ReadonlyMap<string, Criterion> {
  const known = criteriaBySheet.get(sheet);
  if (known) return known;
  const made = new Map(sheet.steps.flatMap((s) => s.criteria.map((c) => [c.id, c] as const)));
  criteriaBySheet.set(sheet, made);
  return made;
}

/** What a cache still holds, else what is found out now; that nothing was found is asked anew each time. */
async function remembered<T extends object | string>(
  cache: LRUCache<string, T>,
  key: string,
  ask: () => Promise<T | null>,
): Promise<T | null> {
  const there = cache.get(key);
  if (there !== undefined) return there;
  const found = await ask();
  if (found !== null) cache.set(key, found);
  return found;
}
