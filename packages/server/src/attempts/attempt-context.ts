import type { Criterion, MethodSheet } from '@clear-mark/core';
import type { Person } from '@clear-mark/contract';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { peopleService } from '../people/index.ts';
import { attemptsStore } from './attempts.store.ts';

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
  const contexts = new Map<string, AttemptContext>();
  const remembered = new Map<string, { readonly value: unknown; readonly until: number }>();

  async function attempt(id: string): Promise<AttemptContext | null> {
    const known = contexts.get(id);
    if (known) return known;
    const row = await attemptsStore(db).byId(id);
    if (!row) return null;
    const sheet = await sheetOfAttempt(db, row);
    const classBegan = await classesStore(db).beganAt(row.classId);
    const { classId, traineeId } = row;
    const made = { id, classId, traineeId, classBegan, criteria: criteriaOf(sheet) };
    if (contexts.size >= MOST_ATTEMPTS) contexts.delete(contexts.keys().next().value!);
    contexts.set(id, made);
    return made;
  }

  async function remember<T>(key: string, ask: () => Promise<T | null>): Promise<T | null> {
    const there = remembered.get(key);
    if (there && there.until > Date.now()) return there.value as T;
    const value = await ask();
    if (remembered.size > MOST_ATTEMPTS) remembered.clear();
    if (value === null) remembered.delete(key);
    else remembered.set(key, { value, until: Date.now() + REMEMBERED_MS });
    return value;
  }
  const person = (id: string): Promise<Person | null> =>
    remember(`person ${id}`, () => peopleService(db).byId(id));
  const memberRole = (classId: string, id: string) =>
    remember(`member ${classId} ${id}`, () => classesStore(db).memberRole(classId, id));

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
