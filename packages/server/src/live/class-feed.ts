import type { EntriesNews } from '@clear-mark/contract';
import type { Logger } from 'pino';
import { attemptsStore } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';
import type { ChangeNotifier, Change } from './notifier.ts';

/** Entries that come close together are one message: well within the second that a score may take to arrive. */
const TOGETHER_MS = 60;
/** How far back an attempt's entries are sent when the feed first hears of it; a device asks for what lies before. */
const FIRST_SECONDS = 5;

type Listener = (lines: string) => void;

export interface ClassFeed {
  /** Hears a class as lines of an event stream until the returned function is called. */
  readonly follow: (classId: string, listener: Listener) => () => void;
}

/**
 * What happens in a class, read once for all who follow it in this process: new entries themselves, so that a device
 * that has all before them asks for nothing; of everything else only that it changed.
 */
export function classFeed(db: Database, notifier: ChangeNotifier, now: () => Date, log: Logger): ClassFeed {
  const rooms = new Map<string, Room>();

  class Room {
    readonly listeners = new Set<Listener>();
    private readonly changed = new Set<string>();
    private readonly lastSent = new Map<string, number>();
    private timer: NodeJS.Timeout | null = null;
    private busy = false;
    readonly leave: () => void;

    constructor(classId: string) {
      this.leave = notifier.listen(classId, (notify) => this.hear(notify));
    }

    private hear({ what, more }: Change): void {
      if (what === 'claim') return;
      if (more === 'entries') {
        this.changed.add(what);
        this.soon();
      } else this.tell(`data: ${what}\n\n`);
    }
    private soon(): void {
      if (this.busy) return;
      this.timer ??= setTimeout(() => {
        this.timer = null;
        void this.read();
      }, TOGETHER_MS);
    }

    private async read(): Promise<void> {
      const ids = [...this.changed];
      this.changed.clear();
      this.busy = true;
      try {
        const found = await attemptsStore(db).freshEntries(
          ids.map((id) => ({ id, after: this.lastSent.get(id) ?? null })),
          FIRST_SECONDS,
        );
        const attempts = [...found].map(([id, entries]) => ({ id, entries }));
        for (const { id, entries } of attempts) this.lastSent.set(id, entries.at(-1)!.seq);
        if (attempts.length > 0) this.tell(linesOf({ now: now().toISOString(), attempts }));
      } catch (error) {
        log.warn({ err: error }, 'class feed');
        // Everybody asks by themselves.
        this.tell('data: again\n\n');
      } finally {
        this.busy = false;
      }
      if (this.changed.size > 0) this.soon();
    }
    private tell(lines: string): void {
      for (const listener of this.listeners) listener(lines);
    }
    stop(): void {
      if (this.timer) clearTimeout(this.timer);
      this.leave();
    }
  }

  return {
    follow: (classId, listener) => {
      const room = rooms.get(classId) ?? new Room(classId);
      rooms.set(classId, room);
      room.listeners.add(listener);
      return () => {
        room.listeners.delete(listener);
        if (room.listeners.size > 0 || rooms.get(classId) !== room) return;
        room.stop();
        rooms.delete(classId);
      };
    },
  };
}

const linesOf = (news: EntriesNews): string => `event: entries\ndata: ${JSON.stringify(news)}\n\n`;
