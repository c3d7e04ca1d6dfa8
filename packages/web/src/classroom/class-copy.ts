import { deviceStore } from '../storage/device-store.ts';

type ClassCopy = Parameters<typeof deviceStore.keepClass>[0];

const KEEP_AFTER_MS = 5000;

/** The class's copy on the device: what the server said. What was entered here is in the queue, so now and then is often enough. */
export function classCopy(current: () => ClassCopy | null) {
  let timer: ReturnType<typeof setTimeout> | null = null;
  /** This class has been put on the device since it was opened. */
  let isThere = false;

  async function keepNow(change: Partial<ClassCopy> = {}): Promise<void> {
    if (timer) clearTimeout(timer);
    timer = null;
    const copy = current();
    if (!copy) return;
    isThere = true;
    await deviceStore.keepClass({ ...copy, ...change }).catch(() => undefined);
  }
  document.addEventListener('visibilitychange', () => document.hidden && timer && void keepNow());
  return {
    keepNow,
    keepSoon: (): void => void (timer ??= setTimeout(() => void keepNow(), KEEP_AFTER_MS)),
    isThere: (): boolean => isThere,
    /** Another class is followed, or none. */
    close: (): void => {
      if (timer) clearTimeout(timer);
      timer = null;
      isThere = false;
    },
  };
}
