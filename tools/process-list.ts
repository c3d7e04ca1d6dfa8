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
