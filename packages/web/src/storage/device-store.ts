import type { AttemptEntry } from '@clear-mark/contract';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { v4 } from 'uuid';

export type QueuedState = 'waiting' | 'refused' | 'unmerged';

export interface Queued {
  /** Order of entry on this device; given by the store. */
  order?: number;
  readonly entry: AttemptEntry;
  readonly state: QueuedState;
  /** Why it was refused or kept beside, in words. */
  readonly detail: string | null;
}

interface Schema extends DBSchema {
  queue: { key: number; value: Queued; indexes: { id: string } };
  settings: { key: string; value: string };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

function open(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('clear-mark', 1, {
    upgrade(db) {
      const queue = db.createObjectStore('queue', { keyPath: 'order', autoIncrement: true });
      queue.createIndex('id', 'entry.id', { unique: true });
      db.createObjectStore('settings');
    },
    terminated() {
      opened = null;
    },
  });
  return opened;
}

/** The one doorway to what stays on this device: entries until they are acknowledged, and its own id. */
export const deviceStore = {
  async add(entry: AttemptEntry): Promise<Queued> {
    const queued: Queued = { entry, state: 'waiting', detail: null };
    const db = await open();
    const order = await db.add('queue', queued);
    return { ...queued, order };
  },

  async all(): Promise<Queued[]> {
    return (await open()).getAll('queue');
  },

  async remove(orders: readonly number[]): Promise<void> {
    const tx = (await open()).transaction('queue', 'readwrite');
    await Promise.all([...orders.map((order) => tx.store.delete(order)), tx.done]);
  },

  async change(queued: Queued): Promise<void> {
    await (await open()).put('queue', queued);
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
