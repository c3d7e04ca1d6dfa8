import { effectScope, shallowRef, watch } from 'vue';
import { dueOf, type RunningTimer } from '../classroom/timers.model.ts';
import { beep } from '../shared/beep.ts';

/** The clocks show whole seconds; stopping takes the instant itself. */
const TICK_MS = 1000;

/**
 * The running timers of every open piece that this device knows, the next one due first. They are entries: they run on
 * the instant of their start, whoever started them and wherever, and are seen and heard on every open device.
 */
const list = shallowRef<readonly RunningTimer[]>([]);
/** Those of a trainee's own sheet, which no class on this device knows. */
const own = shallowRef<readonly RunningTimer[]>([]);
/** Now, on the server's clock. */
const now = shallowRef(Date.now());
const heard = new Set<string>();
let offsetMs = 0;
let ticker: ReturnType<typeof setInterval> | null = null;

/** One ticker for all timers, and none when nothing runs. */
function keepTicking(): void {
  if (list.value.length > 0 && ticker === null) ticker = setInterval(tick, TICK_MS);
  if (list.value.length === 0 && ticker !== null) {
    clearInterval(ticker);
    ticker = null;
  }
}

function tick(): void {
  now.value = Date.now() + offsetMs;
  for (const timer of list.value) {
    if (dueOf(timer, now.value).due && !heard.has(timer.id)) {
      heard.add(timer.id);
      beep();
    }
  }
}

export const timers = {
  now,
  list,
  own,

  startedAt: (attemptId: string, criterionId: string): string | null =>
    list.value.find((t) => t.attemptId === attemptId && t.criterionId === criterionId)?.startedAt ?? null,

  /** Follows what runs, from whatever knows it; once for the application. */
  follow(source: () => { readonly timers: readonly RunningTimer[]; readonly offsetMs: number }): void {
    effectScope(true).run(() => {
      watch(
        () => ({ ...source(), own: own.value }),
        (next) => {
          offsetMs = next.offsetMs;
          now.value = Date.now() + offsetMs;
          const rising = [...next.timers, ...next.own].sort((a, b) => dueOf(a, 0).at - dueOf(b, 0).at);
          if (rising.length !== list.value.length || rising.some((t, i) => !same(t, list.value[i]!))) {
            list.value = rising;
          }
          keepTicking();
        },
        { immediate: true },
      );
    });
  },
};

const same = (a: RunningTimer, b: RunningTimer): boolean => a.id === b.id && a.startedAt === b.startedAt;
