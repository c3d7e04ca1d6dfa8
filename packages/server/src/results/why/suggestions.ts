import { type Entry, resolveEntries } from '@clear-mark/core';
import type { Person, SuggestionCount } from '@clear-mark/contract';
import { attemptsStore } from '../../attempts/index.ts';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { whyStore } from './why.store.ts';

/**
 * How the suggested causes fared in a class: how often an instructor charged a failure to one, and how often one
 * was dismissed as wrong. Taken-back choices do not count. Most dismissed first.
 */
export async function suggestionCounts(
  db: Database,
  classId: string,
  me: Person,
): Promise<SuggestionCount[]> {
  await classForInstructor(db, classId, me);
  const withChoices = await whyStore(db).attemptsWithChoices(classId);
  const counts = new Map<string, SuggestionCount>();
  const entries = await attemptsStore(db).entriesOfMany(withChoices);
  for (const attemptId of withChoices) {
    for (const value of standingChoices(entries.filter((e) => e.attemptId === attemptId))) {
      const row = counts.get(value.cause) ?? { cause: value.cause, charged: 0, dismissed: 0 };
      counts.set(value.cause, row);
      if (value.kind === 'charge') row.charged += 1;
      else row.dismissed += 1;
    }
  }
  return [...counts.values()].sort((a, b) => b.dismissed - a.dismissed || b.charged - a.charged);
}

function standingChoices(entries: readonly Entry[]) {
  const choices = entries.filter((e) => e.kind === 'charge' || e.kind === 'dismiss' || e.kind === 'retract');
  return [...resolveEntries(choices).values()].flatMap(({ heads }) =>
    heads.flatMap(({ value }) => (value?.kind === 'charge' || value?.kind === 'dismiss' ? [value] : [])),
  );
}
