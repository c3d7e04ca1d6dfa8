import { readFileSync } from 'node:fs';
import path from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { ROOT } from './paths.ts';

/** What a run of tests or one check of the tree counted. */
export interface Count {
  readonly passed: number;
  readonly failed: number;
  /** What failed, a few lines each: said once more under everything else. */
  readonly failures?: readonly string[];
}

const SLOW_MS = 20_000;
/** Characters of one failure that are shown. */
export const LONGEST_FAILURE = 1500;

interface BrowserSuite {
  readonly file?: string;
  readonly suites?: readonly BrowserSuite[];
  readonly specs?: readonly BrowserTest[];
}
interface BrowserTest {
  readonly title: string;
  readonly tests: readonly { readonly results: readonly BrowserResult[] }[];
}
interface BrowserResult {
  readonly duration: number;
  readonly status: string;
  readonly error?: { readonly message?: string; readonly snippet?: string };
}

const readable = (text: string): string => stripVTControlCharacters(text).slice(0, LONGEST_FAILURE);

/** Every test of a browser report with its file. */
function browserTests(suite: BrowserSuite): { file: string; title: string; results: BrowserResult[] }[] {
  const here = (suite.specs ?? []).map((s) => ({
    file: suite.file ?? '',
    title: s.title,
    results: s.tests.flatMap((t) => t.results),
  }));
  return [...here, ...(suite.suites ?? []).flatMap(browserTests)];
}

/** What took longest, of browser tests each, of others by file: where to look when the whole takes too long. */
export function slowest(report: string): string[] {
  let found: { ms: number; what: string }[];
  try {
    const { suites, testResults } = JSON.parse(readFileSync(report, 'utf8')) as BrowserSuite & {
      testResults?: VitestReport['testResults'];
    };
    found = [
      ...(suites ?? []).flatMap(browserTests).map((t) => ({
        ms: t.results.reduce((sum, r) => sum + r.duration, 0),
        what: `${t.file}: ${t.title}`,
      })),
      ...(testResults ?? []).map((file) => ({
        ms: file.assertionResults.reduce((sum, t) => sum + (t.duration ?? 0), 0),
        what: path.relative(ROOT, file.name),
      })),
    ];
  } catch {
    return [];
  }
  return found
    .filter(({ ms }) => ms > SLOW_MS)
    .sort((one, other) => other.ms - one.ms)
    .map(({ ms, what }) => `  ${(ms / 1000).toFixed(0)} s: ${what}`);
}

export interface VitestReport {
  readonly numPassedTests: number;
  readonly numFailedTests: number;
  readonly numFailedTestSuites: number;
  readonly testResults: readonly {
    readonly name: string;
    readonly message?: string;
    readonly assertionResults: readonly {
      readonly fullName: string;
      readonly status: string;
      /** Milliseconds; none of what was left out. */
      readonly duration?: number;
      readonly failureMessages: readonly string[];
    }[];
  }[];
}
export interface PlaywrightReport extends BrowserSuite {
  readonly stats: { readonly expected: number; readonly unexpected: number; readonly flaky: number };
  readonly errors: readonly unknown[];
}

export const countVitest = (r: VitestReport): Count => ({
  passed: r.numPassedTests,
  failed: r.numFailedTests || (r.numFailedTestSuites > 0 ? 1 : 0),
  failures: r.testResults.flatMap((file) => {
    const failed = file.assertionResults.filter((t) => t.status === 'failed');
    const inside = failed.map((t) => `${t.fullName}\n${t.failureMessages.join('\n')}`);
    const words = inside.length === 0 && file.message ? [file.message] : inside;
    return words.map((w) => readable(`${path.relative(ROOT, file.name)}: ${w}`));
  }),
});
export const countPlaywright = (r: PlaywrightReport): Count => ({
  passed: r.stats.expected,
  failed: r.stats.unexpected + r.stats.flaky + r.errors.length,
  failures: (r.suites ?? []).flatMap(browserTests).flatMap(({ file, title, results }) =>
    results.flatMap(({ status, error }) => {
      if (status === 'passed' || status === 'skipped') return [];
      const words = [error?.message, error?.snippet].filter(Boolean).join('\n');
      return [readable(`${file}: ${title}: ${status}\n${words}`)];
    }),
  ),
});
