import { ref } from 'vue';

/** Running timers of a device, by attempt and criterion: the instant of their start, kept over a reload. */
const KEY = 'running-timers';

function read(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

const running = ref(read());
const name = (attemptId: string, criterionId: string): string => `${attemptId} ${criterionId}`;

function write(next: Record<string, string>): void {
  running.value = next;
  localStorage.setItem(KEY, JSON.stringify(next));
}

export const timers = {
  startedAt: (attemptId: string, criterionId: string): string | null =>
    running.value[name(attemptId, criterionId)] ?? null,

  start(attemptId: string, criterionId: string): void {
    write({ ...running.value, [name(attemptId, criterionId)]: new Date().toISOString() });
  },

  clear(attemptId: string, criterionId: string): void {
    const { [name(attemptId, criterionId)]: _, ...rest } = running.value;
    write(rest);
  },
};
