import { readdirSync, readFileSync, readlinkSync } from 'node:fs';

/** Ids of the processes whose working folder is this one. Zombies have none, so they do not count. */
export function processesIn(folder: string): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return readlinkSync(`/proc/${pid}/cwd`) === folder;
      } catch {
        return false;
      }
    });
}

/** When a process started, in clock ticks since boot; null when there is none. Tells a reused id apart. */
export function startTicks(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return fields[0] === 'Z' ? null : (fields[19] ?? null);
  } catch {
    return null;
  }
}

const ASKED_MS = 4000;
const TOLD_MS = 5000;

/**
 * Ends what a killed database left working in its folder: first asked (it cancels its query and goes), then told.
 * Resolved when none is left.
 */
export async function endOrphans(orphans: () => number[]): Promise<void> {
  for (const [signal, ms] of [
    ['SIGTERM', ASKED_MS],
    ['SIGQUIT', TOLD_MS],
  ] as const) {
    for (const pid of orphans()) tell(pid, signal);
    const until = Date.now() + ms;
    while (Date.now() < until) {
      if (orphans().length === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
}

function tell(pid: number, signal: 'SIGTERM' | 'SIGQUIT'): void {
  try {
    process.kill(pid, signal);
  } catch {
    // It has ended by itself.
  }
}
