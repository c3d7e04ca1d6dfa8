import { execFile } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ROOT } from './paths.ts';

// The first stage of the set-up, on a made-up machine: a folder with stand-ins for apt-get, sudo, node and npm is
// the whole PATH beside the few basic tools that the script calls.
let machine: string;
const at = (...parts: string[]): string => path.join(machine, ...parts);

function standIn(name: string, script: string): void {
  writeFileSync(at('bin', name), `#!/bin/bash\n${script}\n`);
  chmodSync(at('bin', name), 0o755);
}

beforeEach(() => {
  machine = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-setup-'));
  for (const folder of ['bin', 'pg', 'conf', 'app']) mkdirSync(at(folder));
  for (const tool of ['bash', 'mkdir', 'tee', 'cat', 'env', 'id', 'touch', 'chmod', 'dirname', 'grep']) {
    for (const from of ['/bin', '/usr/bin']) {
      if (existsSync(path.join(from, tool)) && !existsSync(at('bin', tool))) {
        symlinkSync(path.join(from, tool), at('bin', tool));
      }
    }
  }
  // Notes what it was asked for; installs by making the files that the script looks for.
  standIn(
    'apt-get',
    `echo "apt-get $*" >> ${at('log')}
     [ -e ${at('lists-old')} ] && case "$*" in *" install "*) exit 100;; esac
     case "$*" in *update*) rm -f ${at('lists-old')};; esac
     case "$*" in *postgresql*) mkdir -p ${at('pg/15/bin')}; touch ${at('pg/15/bin/initdb')}; chmod +x ${at('pg/15/bin/initdb')};; esac
     case "$*" in *chromium*) touch ${at('chromium')}; chmod +x ${at('chromium')};; esac
     exit 0`,
  );
  symlinkSync(process.execPath, at('bin', 'node'));
  standIn('npm', `echo "npm $*" >> ${at('log')}; mkdir -p node_modules`);
  symlinkSync('/bin/rm', at('bin', 'rm'));
});
afterEach(() => rmSync(machine, { recursive: true, force: true }));

interface Ran {
  readonly code: number;
  readonly err: string;
}

function run(line: string, more: Record<string, string> = {}): Promise<Ran> {
  return new Promise((resolve) => {
    const env = {
      PATH: at('bin'),
      CLEAR_MARK_POSTGRES_ROOT: at('pg'),
      CLEAR_MARK_POSTGRES_CONF: at('conf'),
      CLEAR_MARK_CHROMIUM: at('chromium'),
      CLEAR_MARK_UID: '0',
      ...more,
    };
    const script = `set -euo pipefail; . ${path.join(ROOT, 'tools/setup.sh')}; ${line}`;
    execFile('/bin/bash', ['-c', script], { env, cwd: at('app') }, (error, _out, err) =>
      resolve({ code: error ? Number(error.code) : 0, err }),
    );
  });
}
const log = (): string => (existsSync(at('log')) ? readFileSync(at('log'), 'utf8') : '');

describe('Debian packages', () => {
  it('are installed when missing, without a cluster of the package’s own', async () => {
    const { code } = await run('require_packages database browser');
    expect(code).toBe(0);
    expect(log()).toMatch(
      /install -y --no-install-recommends .*--force-confold postgresql chromium chromium-headless-shell$/m,
    );
    expect(readFileSync(at('conf/createcluster.conf'), 'utf8')).toBe('create_main_cluster = false\n');
  });

  it('are left alone when they are there', async () => {
    await run('require_packages database browser');
    rmSync(at('log'));
    expect((await run('require_packages database browser')).code).toBe(0);
    expect(log()).toBe('');
  });

  it('only what is missing is asked for, and an existing cluster setting is kept', async () => {
    writeFileSync(at('conf/createcluster.conf'), 'create_main_cluster = true\n');
    await run('require_packages database');
    expect(log()).not.toContain('chromium');
    expect(readFileSync(at('conf/createcluster.conf'), 'utf8')).toBe('create_main_cluster = true\n');
  });

  it('none is needed by a server whose database is elsewhere', async () => {
    await run('require_packages_of_setup server');
    await run('require_packages_of_start', { DATABASE_URL: 'postgres://elsewhere/clear_mark' });
    expect(log()).toBe('');
    await run('require_packages_of_start');
    expect(log()).toMatch(/ postgresql$/m);
    await run('require_packages_of_setup ""');
    expect(log()).toMatch(/ chromium chromium-headless-shell$/m);
  });

  it('old package lists are brought up to date, then it is tried again', async () => {
    writeFileSync(at('lists-old'), '');
    const { code } = await run('require_packages database');
    expect(code).toBe(0);
    expect(
      log()
        .split('\n')
        .map((l) => / (install|update)/.exec(l)?.[1])
        .filter(Boolean),
    ).toEqual(['install', 'update', 'install']);
  });

  it('an ordinary user without sudo is given the exact line, and nothing is tried', async () => {
    const { code, err } = await run('require_packages database browser', { CLEAR_MARK_UID: '1000' });
    expect(code).toBe(3);
    expect(err).toContain(
      '  apt-get install -y --no-install-recommends postgresql chromium chromium-headless-shell\n',
    );
    expect(log()).toBe('');
  });

  it('an ordinary user with sudo installs through it', async () => {
    standIn('sudo', `echo "sudo $*" >> ${at('log')}; [ "$1" = -n ] && shift; "$@"`);
    const { code } = await run('require_packages database', { CLEAR_MARK_UID: '1000' });
    expect(code).toBe(0);
    expect(log()).toMatch(/sudo env DEBIAN_FRONTEND=noninteractive apt-get/);
  });

  it('a failing installation stops with the line to run by hand', async () => {
    standIn('apt-get', 'exit 100');
    const { code, err } = await run('require_packages database');
    expect(code).toBe(3);
    expect(err).toContain('apt-get install -y --no-install-recommends postgresql');
  });

  it('a machine without apt-get is told what to install', async () => {
    rmSync(at('bin/apt-get'));
    const { code, err } = await run('require_packages database');
    expect(code).toBe(3);
    expect(err).toContain('no Debian machine');
  });
});

describe('Node.js and its packages', () => {
  it('a machine without Node.js is told so', async () => {
    rmSync(at('bin/node'));
    const { code, err } = await run('require_node');
    expect(code).toBe(3);
    expect(err).toContain('Node.js 20');
  });

  it('an old Node.js is named', async () => {
    rmSync(at('bin/node'));
    standIn('node', 'case "$1" in -p) echo 18;; *) echo v18.19.0;; esac');
    const { code, err } = await run('require_node');
    expect(code).toBe(3);
    expect(err).toContain('this is v18.19.0');
  });

  it('packages are installed when the lock file changed, and only then', async () => {
    writeFileSync(at('app/package-lock.json'), '{"a":1}');
    expect((await run('require_npm')).code).toBe(0);
    expect((await run('require_npm')).code).toBe(0);
    expect(log().trim().split('\n')).toHaveLength(1);
    writeFileSync(at('app/package-lock.json'), '{"a":2}');
    await run('require_npm');
    expect(log().trim().split('\n')).toHaveLength(2);
  });

  it('a failing npm stops and leaves no stamp', async () => {
    standIn('npm', 'exit 1');
    writeFileSync(at('app/package-lock.json'), '{}');
    const { code, err } = await run('require_npm');
    expect(code).toBe(3);
    expect(err).toContain('npm registry');
    expect(existsSync(at('app/node_modules/.clear-mark-lock'))).toBe(false);
  });
});
