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
  const given = (name: 'limit' | 'confidence'): number | null => {
    if (values[name] === undefined) return null;
    const value = numberOf(values[name]);
    if (typeof value === 'string') throw new Error(`--${name} ${value}.`);
    return value;
  };
  const confidence = given('confidence') ?? 0.95;
  if (!(confidence > 0 && confidence < 1)) throw new Error('--confidence lies between 0 and 1.');
  return { file: positionals[0]!, limit: given('limit'), confidence };
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

/** Larger numbers are slips: their squares would leave nothing of the small ones. */
const MOST_SIZE = 1e12;
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/i;

/** A number as tables hold them: decimal, with a point and perhaps an exponent. Or what is wrong with it. */
function numberOf(text: string): number | string {
  if (!NUMBER.test(text)) return `"${text.slice(0, 40)}" is no number`;
  const value = Number(text);
  return Math.abs(value) <= MOST_SIZE ? value : `${text.slice(0, 40)} is over ${MOST_SIZE}`;
}

const FORMAT = { bom: true, trim: true, skip_empty_lines: true } as const;

/** The line of the file at which a row ends; asked for only where it is wrong, since to follow it costs as much as to read. */
function lineOf(text: string, row: number): number {
  const rows = parse(text, { ...FORMAT, info: true, to: row + 1 }) as unknown as {
    info: { lines: number };
  }[];
  return rows[row]!.info.lines;
}

/** The columns of a CSV (RFC 4180 with a header), or what is wrong with it and where. */
export function tableOf(text: string): Table | string {
  let rows: string[][];
  try {
    rows = parse(text, FORMAT);
  } catch (error) {
    return semicolons(text) ?? `not a table: ${(error as Error).message}`;
  }
  const [header] = rows;
  if (!header) return 'it is empty';
  const twice = header.find((name, i) => header.indexOf(name) !== i);
  if (twice !== undefined) return `column "${twice}" stands twice`;
  const measured = header.indexOf('value');
  const judged = header.indexOf('pass');
  if (measured < 0 && judged < 0) {
    return semicolons(text) ?? 'it has neither a column "value" nor a column "pass"';
  }
  const n = rows.length - 1;
  const values = measured < 0 ? null : new Float64Array(n);
  const passed = judged < 0 ? null : new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    const record = rows[i + 1]!;
    const value = values ? numberOf(record[measured]!) : 0;
    if (typeof value === 'string') return `line ${lineOf(text, i + 1)}: value ${value}`;
    if (values) values[i] = value;
    const pass = passed ? PASS.get(record[judged]!.toLowerCase()) : 0;
    if (pass === undefined) {
      return `line ${lineOf(text, i + 1)}: pass "${record[judged]}" is none of 1, 0, pass, fail, true, false, yes, no`;
    }
    if (passed) passed[i] = pass;
  }
  return { n, values, passed, groups: groupsOf(header, rows, [measured, judged]) };
}

/** The grouping columns; each label is kept once, however often it stands in the file. */
function groupsOf(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  taken: readonly number[],
): Table['groups'] {
  return header.flatMap((source, c) => {
    if (taken.includes(c)) return [];
    const kept = new Map<string, string>();
    const labels = rows.slice(1).map((record) => {
      const label = record[c]!;
      const known = kept.get(label);
      if (known !== undefined) return known;
      kept.set(label, label);
      return label;
    });
    return [{ source, labels }];
  });
}

/** Some spreadsheets save with semicolons, and then with decimal commas as well. */
function semicolons(text: string): string | null {
  const [first = ''] = text.split(/\r?\n/, 1);
  if (!first.includes(';')) return null;
  return 'its columns are separated by semicolons; save it with commas between columns and points in numbers';
}
