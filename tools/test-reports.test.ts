import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { ROOT } from './paths.ts';
import { countPlaywright, countVitest, LONGEST_FAILURE, slowest } from './test-reports.ts';

const folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-reports-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const result = (duration: number, status = 'passed', message?: string) => ({
  duration,
  status,
  ...(message === undefined ? {} : { error: { message, snippet: '> 12 | expect(a)' } }),
});

describe('reports of unit tests', () => {
  const file = (
    name: string,
    assertionResults: { fullName: string; status: string; failureMessages: string[] }[],
  ) => ({
    name: path.join(ROOT, name),
    assertionResults,
  });

  it('name the test that failed, with its file and without colours', () => {
    const counted = countVitest({
      numPassedTests: 1,
      numFailedTests: 1,
      numFailedTestSuites: 1,
      testResults: [
        file('packages/core/src/a.test.ts', [
          { fullName: 'adds', status: 'passed', failureMessages: [] },
          { fullName: 'divides', status: 'failed', failureMessages: ['\u001b[31mby zero\u001b[39m'] },
        ]),
      ],
    });
    expect(counted).toEqual({
      passed: 1,
      failed: 1,
      failures: ['packages/core/src/a.test.ts: divides\nby zero'],
    });
  });

  it('count a file that could not be read as one failure, in its own words', () => {
    const counted = countVitest({
      numPassedTests: 0,
      numFailedTests: 0,
      numFailedTestSuites: 1,
      testResults: [{ ...file('tools/b.test.ts', []), message: 'no such module' }],
    });
    expect(counted).toEqual({ passed: 0, failed: 1, failures: ['tools/b.test.ts: no such module'] });
  });
});

describe('reports of unit tests that took long', () => {
  it('name the files, the longest first', () => {
    const of = (name: string, durations: readonly number[]) => ({
      name: path.join(ROOT, name),
      assertionResults: durations.map((duration) => ({
        fullName: 'x',
        status: 'passed',
        duration,
        failureMessages: [],
      })),
    });
    const report = path.join(folder, 'unit.json');
    const testResults = [of('a.test.ts', [900]), of('b.test.ts', [15_000, 6000]), of('c.test.ts', [40_000])];
    writeFileSync(report, JSON.stringify({ testResults }));
    expect(slowest(report)).toEqual(['  40 s: c.test.ts', '  21 s: b.test.ts']);
  });
});

describe('reports of browser tests', () => {
  const report = {
    stats: { expected: 1, unexpected: 1, flaky: 0 },
    errors: [],
    suites: [
      {
        file: 'live.spec.ts',
        specs: [{ title: 'quick', tests: [{ results: [result(900)] }] }],
        suites: [
          {
            file: 'live.spec.ts',
            specs: [{ title: 'slow', tests: [{ results: [result(61_000, 'timedOut', 'x'.repeat(9000))] }] }],
          },
        ],
      },
    ],
  };

  it('name the test that failed, in nested groups too, and are cut where they grow too long', () => {
    const { failed, failures } = countPlaywright(report);
    expect(failed).toBe(1);
    expect(failures).toHaveLength(1);
    expect(failures![0]).toMatch(/^live\.spec\.ts: slow: timedOut\nx/);
    expect(failures![0]).toHaveLength(LONGEST_FAILURE);
  });

  it('tell the tests that took longest', () => {
    const at = path.join(folder, 'e2e.json');
    writeFileSync(at, JSON.stringify(report));
    expect(slowest(at)).toEqual(['  61 s: live.spec.ts: slow']);
    expect(slowest(path.join(folder, 'missing.json'))).toEqual([]);
  });
});
