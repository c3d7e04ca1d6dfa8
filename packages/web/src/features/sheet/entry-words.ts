import type { Criterion, Entry, EntryValue } from '@clear-mark/core';
import { CALL_WORDS, faultWords, HAZARD_WORDS, UNIT_WORDS, VOID_WORDS } from '@clear-mark/words';
import { clockText } from '../../shared/time-words.ts';

/** The part of a criterion that an entry is of, in words: `fiber 3, 1310`. */
export const partWords = (part: string): string => part.replace(/^f/, 'fiber ').replaceAll('.', ', ');

/** What an entry says of a criterion, in a few words. */
export function entryWords(entry: Entry, criterion: Criterion): string {
  if (entry.kind === 'not_seen') return 'not seen';
  if (entry.kind === 'void') return `void: ${VOID_WORDS[entry.voidReason ?? 'setup_broken']}`;
  return entry.value ? valueWords(entry.value, criterion) : entry.kind;
}

function valueWords(value: EntryValue, criterion: Criterion): string {
  switch (value.kind) {
    case 'check': {
      const faults = (value.faults ?? []).map(faultWords).join(', ');
      return value.passed ? 'pass' : faults === '' ? 'fail' : `fail: ${faults}`;
    }
    case 'measure':
      return `${value.text} ${UNIT_WORDS[value.unit]}`;
    case 'count':
      return String(value.count);
    case 'timed': {
      if (value.text !== undefined) return value.text;
      return clockText((Date.parse(value.stoppedAt ?? '') - Date.parse(value.startedAt ?? '')) / 1000);
    }
    case 'grade':
      return criterion.kind === 'grade'
        ? (criterion.levels.find((l) => l.id === value.level)?.label ?? value.level)
        : value.level;
    case 'loss':
      return value.noLight ? 'no light' : `${value.text ?? ''} ${UNIT_WORDS[value.unit]}`;
    case 'map':
      return value.far.map((far) => far ?? '–').join(' ');
    case 'call':
      return `says ${CALL_WORDS[value.said]}`;
    case 'charge':
    case 'dismiss':
      return value.cause.replaceAll('_', ' ');
    case 'stop':
      return HAZARD_WORDS[value.hazard];
    case 'hand':
    case 'timer':
      return value.kind;
    default: {
      const never: never = value;
      return never;
    }
  }
}
