import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { ROOT } from './paths.ts';

const read = (file: string): string => readFileSync(path.join(ROOT, file), 'utf8');

it('each verb that there is gets through ./clear-mark, and stands in the help', () => {
  const verbs = [...read('tools/cli.ts').matchAll(/case '([a-z-]+)':/g)].map(([, verb]) => verb!);
  expect(verbs).toContain('mailbox');
  const front = [...read('clear-mark').matchAll(/^ {2}([a-z |-]+)\)/gm)].flatMap(([, names]) =>
    names!.split('|').map((name) => name.trim()),
  );
  expect(verbs.filter((verb) => !front.includes(verb))).toEqual([]);
  const help = read('tools/help.txt');
  expect(verbs.filter((verb) => !new RegExp(`^ {2}${verb}\\b`, 'm').test(help))).toEqual([]);
});
