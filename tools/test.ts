import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ensureDatabase, removeCluster, startScratchCluster } from './cluster.ts';
import { makeDemoTemplate } from './demo-template.ts';
import { ROOT } from './paths.ts';
import { type Count, countPlaywright, countVitest, LONGEST_FAILURE, slowest } from './test-reports.ts';
import { buildWeb } from './web-build.ts';

interface Ran {
  readonly code: number;
  readonly output: string;
}

const say = (line: string): void => console.log(line);
const bin = (name: string): string => path.join(ROOT, 'node_modules/.bin', name);

function run(
  command: string,
  args: readonly string[],
  environment: Record<string, string> = {},
): Promise<Ran> {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: ROOT, env: { ...process.env, ...environment } });
    let output = '';
    child.stdout.on('data', (part: Buffer) => (output += part.toString()));
    child.stderr.on('data', (part: Buffer) => (output += part.toString()));
    child.on('error', (error) => resolve({ code: 1, output: String(error) }));
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}

/** One check of the whole tree counts as one test. */
async function check(name: string, command: string, args: readonly string[]): Promise<Count> {
  const started = Date.now();
  const { code, output } = await run(command, args);
  const seconds = ((Date.now() - started) / 1000).toFixed(0);
  say(`${code === 0 ? 'ok    ' : 'FAILED'} ${name} (${seconds} s)`);
  return code === 0
    ? { passed: 1, failed: 0 }
    : { passed: 0, failed: 1, failures: [`${name}\n${output.slice(0, LONGEST_FAILURE)}`] };
}

/** A test program that writes a JSON report; a crash without a report is one failure. */
async function suite(
  name: string,
  command: string,
  args: readonly string[],
  report: string,
  count: (report: never) => Count,
  environment: Record<string, string>,
): Promise<Count> {
  const started = Date.now();
  const { code, output } = await run(command, args, environment);
  let counted: Count;
  try {
    counted = count(JSON.parse(readFileSync(report, 'utf8')) as never);
  } catch {
    counted = { passed: 0, failed: 1, failures: [`${name}: no report\n${output.slice(-LONGEST_FAILURE)}`] };
  }
  const slow = slowest(report);
  if (code !== 0 && counted.failed === 0) counted = { ...counted, failed: 1 };
  if (counted.failed > 0 && !counted.failures?.length) {
    counted = {
      ...counted,
      failures: [`${name}: failed outside of a test\n${output.slice(-LONGEST_FAILURE)}`],
    };
  }
  const seconds = ((Date.now() - started) / 1000).toFixed(0);
  say(
    `${counted.failed === 0 ? 'ok    ' : 'FAILED'} ${name}: ${counted.passed} passed, ${counted.failed} failed (${seconds} s)`,
  );
  for (const line of slow) say(line);
  return counted;
}

function vitest(project: string, folder: string, environment: Record<string, string> = {}): Promise<Count> {
  const report = path.join(folder, `${project}.json`);
  const args = [
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ];
  return suite(`tests: ${project}`, bin('vitest'), args, report, countVitest, environment);
}

const LAYERS = ['packages', 'tools', 'e2e', '--config', '.dependency-cruiser.cjs'];

/** On both cores each one works out the same types once more. */
const ONE_CORE = ['--singleThreaded'];

type Job = () => Promise<Count>;

/** Checks of the tree. */
const CHECKS: readonly Job[] = [
  () => check('lint', bin('eslint'), ['--max-warnings', '0', '.']),
  () => check('types of web', bin('vue-tsc'), ['--noEmit', '-p', 'packages/web']),
  () => check('types of server, tools and e2e', bin('tsgo'), ['-p', '.', ...ONE_CORE]),
  () => check('types of the pure packages', bin('tsgo'), ['-p', 'tsconfig.pure.json', ...ONE_CORE]),
  () => check('format', bin('oxfmt'), ['--check', '.']),
  () => check('layers', bin('depcruise'), LAYERS),
];

const LANES = 2;

/** The jobs in their order, two at a time: one that waits for a disk or a database leaves its core to the other. */
async function inLanes(jobs: readonly Job[]): Promise<Count[]> {
  const left = [...jobs];
  const counts: Count[] = [];
  const lane = async (): Promise<void> => {
    for (let job = left.shift(); job; job = left.shift()) counts.push(await job());
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return counts;
}

/** What the browser tests need is made while others run; what goes wrong is told by them, since it is made again there. */
async function ready(what: () => Promise<unknown>): Promise<Count> {
  await what().catch(() => undefined);
  return { passed: 0, failed: 0 };
}

/**
 * Everything, with a temporary cluster of its own and free ports, so that it can run beside a demo. The last
 * line says `N passed, N failed`; the exit code is 0 only when nothing failed.
 */
export async function runTests(args: readonly string[]): Promise<number> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-test-'));
  const name = `test-${process.pid}`;
  const cluster = await startScratchCluster(name, { temporary: true });
  const stop = (): void => void removeCluster(cluster).finally(() => process.exit(1));
  process.once('SIGINT', stop).once('SIGTERM', stop);
  const environment = {
    CLEAR_MARK_TEST_CLUSTER: cluster.url('postgres'),
    CLEAR_MARK_TEST_APP: cluster.appUrl('postgres'),
  };
  const only = args[0] ?? 'all';
  const wanted = (part: string): boolean => only === 'all' || only === part;
  try {
    const counts: Count[] = [];
    await ensureDatabase(cluster, 'template_of_tests');
    const jobs: Job[] = [];
    if (wanted('unit')) jobs.push(() => vitest('unit', folder));
    if (wanted('checks')) jobs.push(...CHECKS);
    if (wanted('unit')) jobs.push(() => vitest('web', folder));
    if (wanted('server')) jobs.push(() => vitest('server', folder, environment));
    if (only === 'all') {
      jobs.push(() => ready(() => buildWeb(say)));
      jobs.push(() => ready(() => makeDemoTemplate(environment.CLEAR_MARK_TEST_CLUSTER)));
    }
    counts.push(...(await inLanes(jobs)));
    if (wanted('e2e')) counts.push(await endToEnd(folder, environment, args.slice(1)));
    for (const words of counts.flatMap((c) => c.failures ?? [])) say(`\nWhat failed: ${words}`);
    const passed = counts.reduce((sum, c) => sum + c.passed, 0);
    const failed = counts.reduce((sum, c) => sum + c.failed, 0);
    say(`${passed} passed, ${failed} failed`);
    return failed === 0 && passed > 0 ? 0 : 1;
  } finally {
    await removeCluster(cluster);
    rmSync(folder, { recursive: true, force: true });
  }
}

async function endToEnd(
  folder: string,
  environment: Record<string, string>,
  more: readonly string[],
): Promise<Count> {
  try {
    const webDir = await buildWeb(say);
    const report = path.join(folder, 'e2e.json');
    return await suite(
      'tests: end to end',
      bin('playwright'),
      ['test', '--config', 'e2e/playwright.config.ts', ...more],
      report,
      countPlaywright,
      { ...environment, PLAYWRIGHT_JSON_OUTPUT_NAME: report, CLEAR_MARK_WEB_DIR: webDir },
    );
  } catch (error) {
    say(`FAILED end to end: ${String(error)}`);
    return { passed: 0, failed: 1 };
  }
}
