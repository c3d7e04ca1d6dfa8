import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { DomainError } from '@clear-mark/core';
import { parse } from 'csv-parse/sync';
import { summarize, type Table } from './stats-summary.ts';

const USE = 'Use: ./clear-mark stats FILE.csv [--limit NUMBER] [--confidence 0.95]';

/**
 * `./clear-mark stats FILE.csv`: what the core computes of a table, as JSON on the standard output; see
 * docs/formats/statistics.md. A bad file is refused whole, with the line and the reason.
 */
export function runStats(args: readonly string[]): number {
  const say = (words: string): number => {
    console.error(words);
    return 2;
  };
  let options: { file: string; limit: number | null; confidence: number };
  try {
    options = readArgs(args);
  } catch (error) {
    return say(`${(error as Error).message}\n${USE}`);
  }
  const { file, limit, confidence } = options;
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    return say(`${file}: cannot be read`);
  }
  const table = tableOf(text);
  if (typeof table === 'string') return say(`${file}: ${table}`);
  try {
    console.log(JSON.stringify(summarize(table, { limit, confidence }), null, 2));
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return say(`${file}: ${error.code} ${JSON.stringify(error.params)}`);
  }
  return 0;
}

function readArgs(args: readonly string[]): { file: string; limit: number | null; confidence: number } {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { limit: { type: 'string' }, confidence: { type: 'string' } },
  });
  if (positionals.length !== 1) throw new Error('Give one file.');
  const numberOf = (name: 'limit' | 'confidence'): number | null => {
    if (values[name] === undefined) return null;
    const value = Number(values[name]);
    if (values[name]!.trim() === '' || !Number.isFinite(value))
      throw new Error(`--${name} ${values[name]} is no number.`);
    return value;
  };
  const confidence = numberOf('confidence') ?? 0.95;
  if (!(confidence > 0 && confidence < 1)) throw new Error('--confidence lies between 0 and 1.');
  return { file: positionals[0]!, limit: numberOf('limit'), confidence };
}

const PASS = new Map([
  ['1', 1],
  ['pass', 1],
  ['true', 1],
  ['yes', 1],
  ['0', 0],
  ['fail', 0],
  ['false', 0],
  ['no', 0],
]);

/** The columns of a CSV (RFC 4180 with a header), or what is wrong with it and where. */
export function tableOf(text: string): Table | string {
  let rows: string[][];
  try {
    rows = parse(text, { bom: true, trim: true, skip_empty_lines: true });
  } catch (error) {
    return `not a table: ${(error as Error).message}`;
  }
  const [header, ...lines] = rows;
  if (!header) return 'it is empty';
  const twice = header.find((name, i) => header.indexOf(name) !== i);
  if (twice !== undefined) return `column "${twice}" stands twice`;
  const measured = header.indexOf('value');
  const judged = header.indexOf('pass');
  if (measured < 0 && judged < 0) return 'it has neither a column "value" nor a column "pass"';
  const values: number[] = [];
  const passed: number[] = [];
  for (const [i, line] of lines.entries()) {
    const at = `line ${i + 2}`;
    if (measured >= 0) {
      const value = Number(line[measured]);
      if (line[measured] === '' || !Number.isFinite(value))
        return `${at}: value "${line[measured]}" is no number`;
      values.push(value);
    }
    if (judged >= 0) {
      const pass = PASS.get(line[judged]!.toLowerCase());
      if (pass === undefined)
        return `${at}: pass "${line[judged]}" is none of 1, 0, pass, fail, true, false, yes, no`;
      passed.push(pass);
    }
  }
  return {
    n: lines.length,
    values: measured >= 0 ? values : null,
    passed: judged >= 0 ? passed : null,
    groups: header.flatMap((name, c) =>
      c === measured || c === judged ? [] : [{ source: name, labels: lines.map((line) => line[c]!) }],
    ),
  };
}
