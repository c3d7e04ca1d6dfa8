export interface RunningTimer {
  /** The entry that started it. */
  readonly id: string;
  readonly attemptId: string;
  readonly criterionId: string;
  readonly classId: string;
  readonly trainee: string;
  readonly label: string;
  /** On the server's clock, so that devices whose clocks differ show the same. */
  readonly startedAt: string;
  /** Band in seconds: the least and the most that the time may be. */
  readonly least: number | null;
  readonly most: number | null;
}

export interface Due {
  /** Instant (ms) at which the instructor is wanted: the least is reached, or the most is near. */
  readonly at: number;
  readonly due: boolean;
  readonly over: boolean;
  readonly elapsed: number;
  readonly words: string;
}

/** A maximum calls a tenth early, at most half a minute: what comes at the limit comes too late. */
const EARLY_SHARE = 0.1;
const EARLY_MOST = 30;

/** When a timer wants its instructor. Seconds; `now` in ms since 1970. */
export function dueOf(timer: RunningTimer, now: number): Due {
  const start = Date.parse(timer.startedAt);
  const elapsed = Math.max(0, (now - start) / 1000);
  const early = timer.most === null ? null : timer.most - Math.min(EARLY_MOST, timer.most * EARLY_SHARE);
  const call = timer.least ?? early ?? 0;
  const over = timer.most !== null && elapsed > timer.most;
  const words = over
    ? 'over its limit'
    : timer.least !== null && elapsed >= timer.least
      ? 'long enough'
      : early !== null && elapsed >= early
        ? 'nearly over'
        : 'running';
  return { at: start + call * 1000, due: words !== 'running', over, elapsed, words };
}
