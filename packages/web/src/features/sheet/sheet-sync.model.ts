import type {
  AttemptChanges,
  AttemptDocument,
  ClassReference,
  EntryReceipt,
  Revision,
  StoredEntry,
} from '@clear-mark/contract';
import { offsetOf } from '../../classroom/classroom.model.ts';

/** An attempt as the server gave it, and what came of it since: a signed one, or a trainee's own. */
export interface AskedSheet {
  readonly document: AttemptDocument;
  readonly stored: readonly StoredEntry[];
  readonly references: readonly ClassReference[];
  /** How far the server's clock is ahead of this device's, ms. */
  readonly offsetMs: number;
}
export type SyncState = AskedSheet | null;

export type SyncEvent =
  | { readonly on: 'given'; readonly document: AttemptDocument }
  /** What changed since an entry; `heardAt` by this device's clock, ms. */
  | { readonly on: 'changed'; readonly changes: AttemptChanges; readonly heardAt: number }
  | {
      readonly on: 'settled';
      readonly entry: Omit<StoredEntry, 'seq' | 'clockOffsetMs'>;
      readonly receipt: EntryReceipt;
    }
  | { readonly on: 'signed'; readonly from: AskedSheet; readonly revision: Revision }
  | { readonly on: 'reference'; readonly reference: ClassReference };

/** `listen`: to what changes from now on. `load`: it is another one by now, asked for as a whole. */
export type SyncEffect = 'listen' | 'load';

/** What an event makes of an attempt that was asked for. Until one was given, nothing else is heard. */
export function syncStep(
  state: SyncState,
  event: SyncEvent,
): { readonly state: SyncState; readonly effects: readonly SyncEffect[] } {
  switch (event.on) {
    case 'given': {
      const { document } = event;
      return {
        state: {
          document,
          stored: document.entries,
          references: document.references,
          offsetMs: state?.offsetMs ?? 0,
        },
        effects: document.attempt.state === 'open' ? ['listen'] : [],
      };
    }
    case 'signed': {
      const { document } = event.from;
      const signed: AttemptDocument = {
        ...document,
        attempt: { ...document.attempt, state: 'signed' },
        revisions: [...document.revisions, event.revision],
      };
      return { state: { ...event.from, document: signed }, effects: [] };
    }
    case 'settled':
      return settled(state, event);
    case 'changed': {
      if (!state) return { state, effects: [] };
      const { changes, heardAt } = event;
      const there = new Set(state.stored.map((e) => e.seq));
      const added = changes.entries.filter((e) => !there.has(e.seq));
      return {
        state: {
          ...state,
          offsetMs: offsetOf(changes.now, heardAt),
          references: changes.references,
          stored: added.length > 0 ? [...state.stored, ...added] : state.stored,
        },
        effects: changes.state === 'open' ? [] : ['load'],
      };
    }
    case 'reference': {
      if (!state) return { state, effects: [] };
      const others = state.references.filter((r) => r.id !== event.reference.id);
      return { state: { ...state, references: [event.reference, ...others] }, effects: [] };
    }
    default:
      return event satisfies never;
  }
}

/** An entry of this device that the server has answered. */
function settled(state: SyncState, { entry, receipt }: SyncEvent & { on: 'settled' }) {
  if (receipt.state === 'unmerged') return { state, effects: ['load'] as const };
  if (receipt.state !== 'accepted' || !state || state.stored.some((e) => e.id === entry.id)) {
    return { state, effects: [] };
  }
  const at = receipt.at ?? entry.at;
  const seen: StoredEntry = { ...entry, at, seq: receipt.seq, clockOffsetMs: state.offsetMs };
  return { state: { ...state, stored: [...state.stored, seen] }, effects: [] };
}

/** The newest entry of the server that is here: what comes after it is asked for. */
export const lastSeq = (state: AskedSheet): number =>
  state.stored.reduce((most, e) => Math.max(most, e.seq), 0);
