import { checkValue, type Criterion, type EntryValue } from '@clear-mark/core';
import type { AttemptEntry, ErrorCode, Person } from '@clear-mark/contract';
import { canBe, corrected } from '../clock/index.ts';
import { codeOf } from '../http/problem.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import type { AttemptContext, Author } from './attempt-context.ts';

export type Params = Readonly<Record<string, string | number>>;
export interface Refusal {
  readonly code: ErrorCode;
  readonly params: Params;
}

export interface Checks {
  readonly context: AttemptContext;
  readonly author: Author | null;
  readonly me: Person;
  readonly stamps: ReadingStamps;
  readonly now: Date;
  /** How far the server is ahead of the device, ms: instants inside a value are the device's. */
  readonly offsetMs: number;
}

/** What an instructor makes of a failure, beside its result, or of a danger: never a trainee's to enter. */
const isJudgement = (kind: string): boolean => kind === 'charge' || kind === 'dismiss' || kind === 'stop';
/** Kinds whose value has a kind of its own. */
const hasOwnValue = (kind: string): boolean => isJudgement(kind) || kind === 'hand' || kind === 'timer';
/** What only the server may say. */
const OF_THE_SERVER: readonly string[] = ['computed', 'picture'];

const no = (code: ErrorCode, params: Params = {}): Refusal => ({ code, params });

/** What an entry itself tells against taking it; null when nothing. What hangs on other rows the database decides. */
export function whyRefused(entry: AttemptEntry, checks: Checks): Refusal | null {
  const { author, context } = checks;
  if (!author) return no('entry.not_author');
  if (!author.mayEnter) return no('entry.author_left', { name: author.name });
  if ((author.role === 'trainee') !== (entry.capacity === 'trainee')) {
    return no('entry.capacity', { role: author.role, capacity: entry.capacity });
  }
  if (OF_THE_SERVER.includes(entry.source)) return no('entry.source', { source: entry.source });
  if (entry.kind === 'retract') return entry.targetId === null ? no('entry.unknown_target') : null;
  if (entry.targetId !== null) return no('entry.unknown_target');
  if (entry.kind === 'note' && entry.note === null) return no('entry.value_missing');
  if (entry.criterionId === null) {
    return entry.kind === 'note' ? null : no('entry.unknown_criterion', { criterion: '' });
  }
  const criterion = context.criteria.get(entry.criterionId);
  if (!criterion) return no('entry.unknown_criterion', { criterion: entry.criterionId });
  const carriesValue = entry.kind === 'value' || hasOwnValue(entry.kind);
  if (carriesValue !== (entry.value !== null)) return no('entry.value_missing');
  if (entry.value === null) return null;
  const wanted = hasOwnValue(entry.value.kind) ? entry.value.kind : 'value';
  if (entry.kind !== wanted) return no('value.wrong_kind', { given: entry.value.kind, wanted: entry.kind });
  if (isJudgement(entry.kind) && author.role === 'trainee') {
    return no('entry.capacity', { role: author.role, capacity: entry.kind });
  }
  return whyValueRefused(criterion, entry, entry.value, checks);
}

function whyValueRefused(
  criterion: Criterion,
  entry: AttemptEntry,
  value: EntryValue,
  { context, stamps, now, offsetMs }: Checks,
): Refusal | null {
  const instants = instantsOf(value).map((at) => corrected(at, offsetMs));
  if (instants.some((at) => !canBe(at, context.classBegan, now))) return no('entry.time');
  const stamp = stampOf(value);
  if (stamp && !stamps.gaveOut(context.classId, stamp, value)) return no('entry.unknown_reading');
  try {
    checkValue(criterion, entry.part, value);
    return null;
  } catch (error) {
    return codeOf(error);
  }
}

export const stampOf = (value: EntryValue | null) =>
  value !== null && (value.kind === 'loss' || value.kind === 'measure') ? value.instrument : undefined;

function instantsOf(value: EntryValue): string[] {
  if (value.kind === 'timer') return [value.startedAt];
  if (value.kind !== 'timed') return [];
  return [value.startedAt, value.stoppedAt].filter((at) => at !== undefined);
}

/** An instrument's value is one with the server's stamp; what a person read off and typed was typed. */
export function sourceOf(entry: AttemptEntry): AttemptEntry['source'] {
  return entry.source === 'instrument' && !stampOf(entry.value) ? 'typed' : entry.source;
}
