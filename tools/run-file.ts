import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync, closeSync } from 'node:fs';
import path from 'node:path';
import { STATE } from './paths.ts';
import { startTicks } from './process-list.ts';

export type Kind = 'demo' | 'real';

interface RunRecord {
  readonly pid: number;
  readonly ticks: string;
  readonly url: string | null;
  /** Folder of its data; null with a database that was given. */
  readonly home?: string | null;
}

const fileOf = (kind: Kind): string => path.join(STATE, `${kind}.run`);

function recordIn(kind: Kind): RunRecord | null {
  const file = fileOf(kind);
  if (!existsSync(file)) return null;
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as RunRecord;
  } catch {
    return null;
  }
}

/** Who runs this kind now, if that process is still the same one. */
export function runningNow(kind: Kind): RunRecord | null {
  const record = recordIn(kind);
  return record && startTicks(record.pid) === record.ticks ? record : null;
}

/** The data folder of the last run of this kind that did not end in order; null when there is none. */
export const homeLeftBehind = (kind: Kind): string | null => recordIn(kind)?.home ?? null;

/** Takes the run file for this process. Null when another running process has it. */
export function takeRunFile(
  kind: Kind,
  home: string | null,
): { setUrl: (url: string) => void; release: () => void } | null {
  mkdirSync(STATE, { recursive: true });
  const file = fileOf(kind);
  const mine = { pid: process.pid, ticks: startTicks(process.pid) ?? '', home };
  for (let tries = 0; ; tries++) {
    try {
      const handle = openSync(file, 'wx', 0o600);
      writeFileSync(handle, JSON.stringify({ ...mine, url: null }));
      closeSync(handle);
      break;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST' || tries > 3) throw error;
      if (runningNow(kind)) return null;
      rmSync(file, { force: true });
    }
  }
  return {
    setUrl: (url) => writeFileSync(file, JSON.stringify({ ...mine, url })),
    release: () => rmSync(file, { force: true }),
  };
}
