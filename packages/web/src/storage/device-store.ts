import type { MethodSheet } from '@clear-mark/core';
import type {
  AttemptDocument,
  AttemptEntry,
  ClassDetail,
  NewAttemptBody,
  OpenAttempt,
  TodayTile,
} from '@clear-mark/contract';
import type { Sealed } from './seal.ts';
import type { KeptAttempt } from './kept-attempt.ts';
import type { ClassReference, NewReferenceBody } from '@clear-mark/contract';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { v4 } from 'uuid';
import type { z } from 'zod';

/** Under what name the person and the classes are kept for a start without a network. */
export const SESSION_SETTING = 'session';

export type QueuedState = 'waiting' | 'refused' | 'unmerged';

/** What is on its way to the server: an entry, a piece that was started, or a reference that was set. */
export interface Queued {
  /** Order of entry on this device; given by the store. */
  order?: number;
  readonly entry: AttemptEntry | null;
  readonly start?: { readonly classId: string; readonly body: NewAttemptBody };
  readonly reference?: { readonly classId: string; readonly body: z.input<typeof NewReferenceBody> };
  readonly id: string;
  readonly authorId: string;
  readonly state: QueuedState;
  /** Why it was refused or kept beside, in words. */
  readonly detail: string | null;
}
export type NewQueued = Omit<Queued, 'order' | 'state' | 'detail'>;

/** A class as this device last knew it: enough to show the board and open every sheet without a network. */
export interface ClassCopy {
  readonly classId: string;
  readonly detail: ClassDetail | null;
  readonly day: string;
  readonly tiles: readonly TodayTile[];
  readonly attempts: readonly (OpenAttempt & Partial<KeptAttempt>)[];
  readonly references: readonly ClassReference[];
  readonly savedAt: string;
}

interface Schema extends DBSchema {
  queue: { key: number; value: Queued; indexes: { id: string } };
  settings: { key: string; value: string };
  classes: { key: string; value: ClassCopy };
  /** Sheets of method versions; one in force never changes. */
  sheets: { key: string; value: MethodSheet };
  /** A trainee's own open sheet, as it was last on the screen. */
  documents: { key: string; value: AttemptDocument };
  /** What a person left unsent when signing out: opened by a new sign-in of the same person. */
  sealed: { key: string; value: Sealed };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

function open(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('clear-mark', 3, {
    upgrade(db, from) {
      if (from < 1) {
        const queue = db.createObjectStore('queue', { keyPath: 'order', autoIncrement: true });
        queue.createIndex('id', 'entry.id', { unique: true });
        db.createObjectStore('settings');
      }
      if (from < 2) {
        db.createObjectStore('classes', { keyPath: 'classId' });
        db.createObjectStore('sheets');
      }
      if (from < 3) {
        db.createObjectStore('documents');
        db.createObjectStore('sealed');
      }
    },
    /** A newer version of the application in another tab may upgrade: this one lets go and opens again. */
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      opened = null;
    },
    terminated() {
      opened = null;
    },
  });
  return opened;
}

/** The one doorway to what stays on this device: entries until they are acknowledged, the class, its own id. */
export const deviceStore = {
  async add(given: NewQueued): Promise<Queued> {
    const queued: Queued = { ...given, state: 'waiting', detail: null };
    const db = await open();
    const order = await db.add('queue', queued);
    return { ...queued, order };
  },

  async all(): Promise<Queued[]> {
    return (await (await open()).getAll('queue')).map((q) => ({
      ...q,
      id: q.id ?? q.entry!.id,
      authorId: q.authorId ?? q.entry!.authorId,
    }));
  },

  async remove(orders: readonly number[]): Promise<void> {
    const tx = (await open()).transaction('queue', 'readwrite');
    await Promise.all([...orders.map((order) => tx.store.delete(order)), tx.done]);
  },

  async change(queued: Queued): Promise<void> {
    await (await open()).put('queue', queued);
  },

  async classCopy(classId: string): Promise<ClassCopy | null> {
    return (await (await open()).get('classes', classId)) ?? null;
  },
  async keepClass(copy: ClassCopy): Promise<void> {
    await (await open()).put('classes', copy);
  },
  async sheet(versionId: string): Promise<MethodSheet | null> {
    return (await (await open()).get('sheets', versionId)) ?? null;
  },
  async keepSheet(versionId: string, sheet: MethodSheet): Promise<void> {
    await (await open()).put('sheets', sheet, versionId);
  },

  async document(attemptId: string): Promise<AttemptDocument | null> {
    return (await (await open()).get('documents', attemptId)) ?? null;
  },
  async keepDocument(document: AttemptDocument): Promise<void> {
    await (await open()).put('documents', document, document.attempt.id);
  },
  async dropDocument(attemptId: string): Promise<void> {
    await (await open()).delete('documents', attemptId);
  },

  async sealed(personId: string): Promise<Sealed | null> {
    return (await (await open()).get('sealed', personId)) ?? null;
  },
  /** What was sealed is put back into the queue, in one step: it is in one of the two places at every moment. */
  async putBack(personId: string, items: readonly Queued[]): Promise<void> {
    const tx = (await open()).transaction(['queue', 'sealed'], 'readwrite');
    for (const { order: _, ...item } of items) void tx.objectStore('queue').add(item);
    void tx.objectStore('sealed').delete(personId);
    await tx.done;
  },
  /**
   * At the end of a session nothing readable of the class stays: the class, its sheets, the person; what the person has
   * not sent is kept sealed. In one step, so that an interruption loses nothing.
   */
  async clearFor(personId: string, sealed: Sealed | null, orders: readonly number[]): Promise<void> {
    const stores = ['queue', 'classes', 'sheets', 'documents', 'settings', 'sealed'] as const;
    const tx = (await open()).transaction(stores, 'readwrite');
    for (const order of orders) void tx.objectStore('queue').delete(order);
    for (const store of ['classes', 'sheets', 'documents'] as const) void tx.objectStore(store).clear();
    void tx.objectStore('settings').delete(SESSION_SETTING);
    if (sealed) void tx.objectStore('sealed').put(sealed, personId);
    await tx.done;
  },

  async setting(name: string): Promise<string | null> {
    return (await (await open()).get('settings', name)) ?? null;
  },
  async keepSetting(name: string, value: string | null): Promise<void> {
    const db = await open();
    if (value === null) await db.delete('settings', name);
    else await db.put('settings', value, name);
  },

  /** An id that this device keeps for good. */
  async deviceId(): Promise<string> {
    const db = await open();
    const there = await db.get('settings', 'device');
    if (there !== undefined) return there;
    const made = v4();
    await db.put('settings', made, 'device');
    return made;
  },
};
