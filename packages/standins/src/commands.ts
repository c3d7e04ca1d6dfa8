import type { Failure } from './failures.ts';

export type Run = (argument: string, failure: Failure) => string | void;
/** By long-form header with its short form in capitals, such as `SENSe:POWer:WAVelength?`. */
export type CommandTable = Readonly<Record<string, Run>>;

/** The command that a program message unit asks for, in its long or its short form (SCPI 1999, 6.2.1). */
export function commandOf(table: CommandTable, text: string): { run: Run; argument: string } | null {
  const [header = '', ...rest] = text.split(/\s+/);
  for (const [pattern, run] of Object.entries(table)) {
    if (matches(pattern, header)) return { run, argument: rest.join(' ') };
  }
  return null;
}

function matches(pattern: string, header: string): boolean {
  const wanted = pattern.split(':');
  const given = header.toUpperCase().split(':');
  if (wanted.length !== given.length) return false;
  return wanted.every((word, i) => {
    const short = word.replace(/[a-z]/g, '');
    return given[i] === short || given[i] === word.toUpperCase();
  });
}

export interface ErrorQueue {
  readonly add: (code: number, text: string) => void;
  readonly next: () => string;
  readonly clear: () => void;
}

const LONGEST_QUEUE = 20;

/** First in, first out; the last place is kept for the overflow (SCPI 1999, 21.8). */
export function errorQueue(): ErrorQueue {
  let waiting: string[] = [];
  return {
    add: (code, text) => {
      if (waiting.length < LONGEST_QUEUE - 1) waiting.push(`${code},"${text}"`);
      else if (waiting.length < LONGEST_QUEUE) waiting.push('-350,"Queue overflow"');
    },
    next: () => waiting.shift() ?? '0,"No error"',
    clear: () => (waiting = []),
  };
}
