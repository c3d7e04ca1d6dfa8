import { computed, ref } from 'vue';
import { dueOf, type RunningTimer } from './timers.model.ts';

/** Running timers of this device: kept over a reload, since they run on the instant of their start. */
const KEY = 'running-timers';
/** The clocks show whole seconds; stopping takes the instant itself. */
const TICK_MS = 1000;

function read(): RunningTimer[] {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(stored) ? (stored as RunningTimer[]) : [];
  } catch {
    return [];
  }
}

const running = ref<readonly RunningTimer[]>(read());
const now = ref(Date.now());
const heard = new Set<string>();
let ticker: ReturnType<typeof setInterval> | null = null;

function write(next: readonly RunningTimer[]): void {
  running.value = next;
  localStorage.setItem(KEY, JSON.stringify(next));
  keepTicking();
}

/** One ticker for all timers, and none when nothing runs. */
function keepTicking(): void {
  if (running.value.length > 0 && ticker === null) ticker = setInterval(tick, TICK_MS);
  if (running.value.length === 0 && ticker !== null) {
    clearInterval(ticker);
    ticker = null;
  }
}

function tick(): void {
  now.value = Date.now();
  for (const timer of running.value) {
    const key = `${timer.attemptId} ${timer.criterionId}`;
    if (dueOf(timer, now.value).due && !heard.has(key)) {
      heard.add(key);
      beep();
    }
  }
}

/** Made at the first tone and kept: making one costs more than many seconds of ticking. */
let audio: AudioContext | null = null;

/** Two short tones; a browser that was never touched stays silent, and the strip shows it all the same. */
function beep(): void {
  try {
    audio ??= new AudioContext();
    if (audio.state === 'suspended') void audio.resume();
    for (const [at, hz] of [
      [0, 880],
      [0.22, 1175],
    ] as const) {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      tone.frequency.value = hz;
      volume.gain.value = 0.15;
      tone.connect(volume).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.16);
    }
  } catch {
    // No sound device: the strip is what remains.
  }
}

const same = (t: RunningTimer, attemptId: string, criterionId: string): boolean =>
  t.attemptId === attemptId && t.criterionId === criterionId;

export const timers = {
  now,
  /** The next one due first. When one is due does not move, so the order is worked out when one starts or ends. */
  list: computed(() => [...running.value].sort((a, b) => dueOf(a, 0).at - dueOf(b, 0).at)),

  startedAt: (attemptId: string, criterionId: string): string | null =>
    running.value.find((t) => same(t, attemptId, criterionId))?.startedAt ?? null,

  start(timer: Omit<RunningTimer, 'startedAt'>): void {
    now.value = Date.now();
    heard.delete(`${timer.attemptId} ${timer.criterionId}`);
    const others = running.value.filter((t) => !same(t, timer.attemptId, timer.criterionId));
    write([...others, { ...timer, startedAt: new Date().toISOString() }]);
  },

  clear(attemptId: string, criterionId: string): void {
    write(running.value.filter((t) => !same(t, attemptId, criterionId)));
  },
};

keepTicking();
