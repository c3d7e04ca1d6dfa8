import { type EntriesNews, EVENT_PATHS } from '@clear-mark/contract';
import { pathOf } from '../api/client.ts';
import { type EventStream, openEventStream } from '../api/event-stream.ts';

/** Without a word from the stream for so long the device asks by itself: a proxy may hold the words back. */
const SILENT_MS = 15_000;
const ASK_EVERY_MS = 4000;
/** Notifications that come close together are one question: well within the second that a score may take to arrive. */
const TOGETHER_MS = 200;

export interface ClassStream {
  readonly open: (classId: string) => void;
  readonly close: () => void;
  readonly heardLately: () => boolean;
}

/**
 * What a class tells its devices: hands new entries to `take` as they come, calls `ask` when something else changed, and now
 * and then when nothing was heard for long, and `dayChanged` when a plan of a day or its ovens did. It says whether the class itself was changed: its trainees, tools, methods or links.
 */
export function classStream(
  ask: (classChanged: boolean) => void,
  take: (news: EntriesNews) => void,
  dayChanged: () => void,
): ClassStream {
  let source: EventStream | null = null;
  let lastHeard = 0;
  let changed = false;
  let soon: ReturnType<typeof setTimeout> | null = null;
  let watch: ReturnType<typeof setInterval> | null = null;
  const heardLately = (): boolean => Date.now() - lastHeard < SILENT_MS;

  function listen(classId: string): void {
    source?.close();
    const path = pathOf(EVENT_PATHS.class, { id: classId });
    source = openEventStream(path, changeHeard, {
      entries: (data) => {
        lastHeard = Date.now();
        take(JSON.parse(data) as EntriesNews);
      },
    });
  }
  function changeHeard(what: string): void {
    lastHeard = Date.now();
    if (what === 'day') return dayChanged();
    changed ||= what === 'class';
    soon ??= setTimeout(() => {
      soon = null;
      ask(changed);
      changed = false;
    }, TOGETHER_MS);
  }
  function close(): void {
    source?.close();
    source = null;
    if (watch) clearInterval(watch);
    watch = null;
  }
  function open(classId: string): void {
    close();
    listen(classId);
    watch = setInterval(() => {
      if (!heardLately()) ask(false);
      if (source?.isClosed()) listen(classId);
    }, ASK_EVERY_MS);
  }
  return { open, close, heardLately };
}
