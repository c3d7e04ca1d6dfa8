import { type EntriesNews, EVENT_PATHS } from '@clear-mark/contract';
import { pathOf } from '../api/client.ts';

/** Without a word from the stream for so long the device asks by itself: a proxy may hold the words back. */
const SILENT_MS = 15_000;
const ASK_EVERY_MS = 4000;
/** Rings that come close together are one question: well within the second that a score may take to arrive. */
const RINGS_TOGETHER_MS = 200;

export interface ClassStream {
  readonly open: (classId: string) => void;
  readonly close: () => void;
  readonly heardLately: () => boolean;
}

/**
 * The bell of a class: hands new entries to `take` as they come, calls `ask` when something else rang, and now and then
 * when nothing was heard for long. It says
 * whether the class itself was changed: its trainees, tools, methods or links.
 */
export function classStream(
  ask: (classChanged: boolean) => void,
  take: (news: EntriesNews) => void,
): ClassStream {
  let source: EventSource | null = null;
  let lastHeard = 0;
  let changed = false;
  let soon: ReturnType<typeof setTimeout> | null = null;
  let watch: ReturnType<typeof setInterval> | null = null;
  const heardLately = (): boolean => Date.now() - lastHeard < SILENT_MS;

  function listen(classId: string): void {
    source?.close();
    source = new EventSource(pathOf(EVENT_PATHS.class, { id: classId }));
    source.onmessage = ({ data }) => {
      lastHeard = Date.now();
      changed ||= data === 'class';
      soon ??= setTimeout(() => {
        soon = null;
        ask(changed);
        changed = false;
      }, RINGS_TOGETHER_MS);
    };
    source.addEventListener('entries', ({ data }: MessageEvent<string>) => {
      lastHeard = Date.now();
      take(JSON.parse(data) as EntriesNews);
    });
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
      if (source?.readyState === EventSource.CLOSED) listen(classId);
    }, ASK_EVERY_MS);
  }
  return { open, close, heardLately };
}
