import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest';
import { runStats, tableOf } from './stats-command.ts';

const folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-stats-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
afterEach(() => vi.restoreAllMocks());

const run = (csv: string, ...more: string[]): { code: number; out: never; error: string } => {
  const file = path.join(folder, 'table.csv');
  writeFileSync(file, csv);
  const log = vi.spyOn(console, 'log');
  const error = vi.spyOn(console, 'error');
  log.mockReset();
  error.mockReset();
  const code = runStats([file, ...more]);
  const said = log.mock.calls.flat().join('');
  return { code, out: (said ? JSON.parse(said) : null) as never, error: error.mock.calls.flat().join(' ') };
};
const TABLE = `value,trainee,pass
0.21,Ines,pass
0.25,Ines,pass
0.41,Bo,fail
0.37,Bo,1
0.30,Kaya,yes
0.29,Kaya,0
`;

describe('statistics of a table', () => {
  it('values, groups, passes and components', () => {
    const { code, out } = run(TABLE, '--limit', '0.35');
    expect(code).toBe(0);
    expect(out).toMatchObject({
      n: 6,
      limit: 0.35,
      value: { description: { n: 6, min: 0.21, max: 0.41 }, over_limit: { k: 2, n: 6 } },
      pass: { k: 4, n: 6, intervals: { wilson: { kind: 'interval' } } },
      groups: [{ column: 'trainee', levels: [{ level: 'Bo', n: 2 }, { level: 'Ines' }, { level: 'Kaya' }] }],
      components: { kind: 'components', components: [{ source: 'trainee' }] },
    });
  });
  it('no rows, one row, equal values: nothing is made up', () => {
    expect(run('value\n').out).toMatchObject({ n: 0, value: { description: null, chart: { kind: 'none' } } });
    expect(run('value\n2\n').out).toMatchObject({
      value: { mean_interval: { kind: 'none', reason: 'too_few' } },
    });
    expect(run('value,bench\n2,a\n2,b\n2,a\n').out).toMatchObject({
      value: { upper_bound: { kind: 'none', reason: 'no_spread' } },
      components: { kind: 'not_identifiable', because: [{ reason: 'no_spread' }] },
    });
    expect(run('pass,trainee\n').out).toMatchObject({ pass: { n: 0, share: null } });
  });
  it.each([
    ['', 'it is empty'],
    ['loss,trainee\n1,a\n', 'neither a column "value" nor a column "pass"'],
    ['value,value\n1,2\n', 'stands twice'],
    ['value\nx\n', 'line 2: value "x" is no number'],
    ['value\n1\n\n"",\n', 'not a table'],
    ['pass\nmaybe\n', 'line 2: pass "maybe"'],
    ['value,a\n1\n', 'not a table'],
    ['value;trainee\n0,21;Ines\n', 'separated by semicolons'],
    ['value;trainee\n0.21;Ines\n', 'separated by semicolons'],
    // The line of the file, whatever was skipped or went over several lines before it.
    ['value,note\n1,a\n\n\nx,b\n', 'line 5: value "x" is no number'],
    ['value,note\n1,"a\nb"\nx,c\n', 'line 4: value "x" is no number'],
    ['value\n0x10\n', 'line 2: value "0x10" is no number'],
    ['value\n1_000\n', 'is no number'],
    ['value\n1e12\n1000000000001\n', 'line 3: value 1000000000001 is over'],
  ])('%j is refused: %s', (csv, words) => expect(tableOf(csv)).toContain(words));
  it('numbers with an exponent are numbers', () => {
    expect(tableOf('value\n1.5e-3\n-.25\n')).toMatchObject({ values: Float64Array.of(0.0015, -0.25) });
  });
  it('prints the first hundred of a long list and how many there are', () => {
    const steps = Array.from({ length: 5000 }, (_, i) => (i % 20 < 10 ? 1 : 2)).join('\n');
    const { out } = run(`value\n${steps}\n`);
    expect(out).toMatchObject({ value: { nelson: { count: expect.any(Number) as number } } });
    const { nelson, chart } = (out as { value: Record<string, { count: number; first: unknown[] }> }).value;
    expect(nelson!.count).toBeGreaterThan(1000);
    expect(nelson!.first).toHaveLength(100);
    expect(chart).toMatchObject({ kind: 'chart', rangesOut: { count: 499 } });
  });
  it('wrong calls end with 2 and a sentence', () => {
    const error = vi.spyOn(console, 'error').mockReturnValue(undefined);
    expect(runStats([])).toBe(2);
    expect(runStats(['/nowhere.csv'])).toBe(2);
    expect(runStats(['a.csv', '--limit', 'high'])).toBe(2);
    expect(runStats(['a.csv', '--confidence', '1.5'])).toBe(2);
    expect(runStats(['a.csv', '--what'])).toBe(2);
    expect(runStats(['a.csv', '--limit', '0x10'])).toBe(2);
    expect(error).toHaveBeenCalledTimes(6);
    expect(run('value\n1e999\n').error).toContain('line 2');
  });
});
