import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { ROOT } from './paths.ts';

/** A small tree with the project's rooms, in which each rule of `.dependency-cruiser.cjs` is broken by itself. */
const root = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-layers-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));

const write = (file: string, text: string): void => {
  mkdirSync(path.dirname(path.join(root, file)), { recursive: true });
  writeFileSync(path.join(root, file), text);
};
const importing = (...specs: string[]): string =>
  `${specs.map((spec, i) => `import * as x${i} from '${spec}';`).join('\n')}\nexport const a = [${specs.map((_, i) => `x${i}`).join(', ')}];\n`;

/** Files that keep to the rules; every breach is a file more. */
const KEPT: Readonly<Record<string, string>> = {
  'tsconfig.json': '{"compilerOptions":{"allowImportingTsExtensions":true,"noEmit":true}}',
  'packages/core/src/stats/mean.ts': 'export const mean = 1;\n',
  'packages/core/src/scoring/score.ts': importing('../stats/mean.ts'),
  'packages/contract/src/shape.ts': importing('../../core/src/stats/mean.ts'),
  'packages/words/src/words.ts': 'export const w = 1;\n',
  'packages/methods/src/method.ts': 'export const m = 1;\n',
  'packages/sim/src/piece.ts': 'export const s = 1;\n',
  'packages/demo/src/demo.ts': importing('../../sim/src/piece.ts'),
  'packages/standins/src/meter.ts': 'export const t = 1;\n',
  'packages/server/src/main.ts': importing('./attempts/index.ts'),
  'packages/server/src/database/database.ts': 'export const db = 1;\n',
  'packages/server/src/http/handle.ts': 'export const h = 1;\n',
  'packages/server/src/faces/faces.store.ts': 'export const f = 1;\n',
  'packages/server/src/faces/index.ts': importing('./faces.store.ts'),
  'packages/server/src/attempts/index.ts': importing('./attempts.ts'),
  'packages/server/src/attempts/attempts.ts': importing('../database/database.ts', '../faces/index.ts'),
  'packages/server/test/attempts.test.ts': importing('../../standins/src/meter.ts'),
  'packages/web/src/storage/store.ts': 'export const s = 1;\n',
  'packages/web/src/shell/bar.ts': importing('../storage/store.ts'),
  'packages/web/src/features/sheet/index.ts': 'export const s = 1;\n',
  'packages/web/src/features/sheet/sheet.ts': 'export const s = 1;\n',
  'packages/web/src/features/faces/faces.ts': importing('../sheet/index.ts'),
};

const BREACHES: readonly (readonly [rule: string, file: string, text: string])[] = [
  ['core-imports-nothing-above', 'packages/core/src/up.ts', importing('../../contract/src/shape.ts')],
  ['contract-imports-nothing-above', 'packages/contract/src/up.ts', importing('../../words/src/words.ts')],
  ['words-imports-nothing-above', 'packages/words/src/up.ts', importing('../../methods/src/method.ts')],
  ['methods-imports-nothing-above', 'packages/methods/src/up.ts', importing('../../sim/src/piece.ts')],
  ['sim-imports-nothing-above', 'packages/sim/src/up.ts', importing('../../demo/src/demo.ts')],
  [
    'web-stands-alone',
    'packages/web/src/aside.ts',
    importing('../../server/src/faces/index.ts', '../../standins/src/meter.ts'),
  ],
  ['server-stands-alone', 'packages/server/src/aside.ts', importing('../../standins/src/meter.ts')],
  ['demo-stands-alone', 'packages/demo/src/aside.ts', importing('../../server/src/faces/index.ts')],
  ['no-ring', 'packages/core/src/ring.ts', importing('./ring.ts')],
  [
    'no-ring-of-rooms',
    'packages/core/src/stats/back.ts',
    importing('../scoring/score.ts'), // Scoring stands on stats; no file stands on itself.
  ],
  [
    'no-ring-of-rooms',
    'packages/server/src/faces/back.ts',
    importing('../attempts/index.ts'), // Attempts stand on faces.
  ],
  [
    'no-ring-of-rooms',
    'packages/web/src/storage/back.ts',
    importing('../shell/bar.ts'), // The shell stands on storage.
  ],
  [
    'server-ground-knows-no-feature',
    'packages/server/src/http/up.ts',
    importing('../attempts/index.ts'), // Features stand on http.
  ],
  [
    'server-feature-by-its-index',
    'packages/server/src/attempts/reach.ts',
    importing('../faces/faces.store.ts'),
  ],
  [
    // A room that nobody told the rules of.
    'server-feature-by-its-index',
    'packages/server/src/attempts/reach-new.ts',
    importing('../ovens/ovens.store.ts'),
  ],
  ['server-top-by-the-index', 'packages/server/src/reach.ts', importing('./faces/faces.store.ts')],
  [
    'web-feature-stays-in-its-room',
    'packages/web/src/features/faces/reach.ts',
    importing('../sheet/sheet.ts'),
  ],
  ['web-ground-knows-no-feature', 'packages/web/src/shell/up.ts', importing('../features/sheet/index.ts')],
  ['core-uses-no-package', 'packages/core/src/disk.ts', importing('node:fs')],
  ['product-imports-no-test', 'packages/core/src/tested.ts', importing('./score.test.ts')],
  ['resolvable', 'packages/core/src/nowhere.ts', importing('./gone.ts')],
];

interface Cruised {
  readonly summary: { readonly violations: readonly { from: string; rule: { name: string } }[] };
}
function broken(): readonly { from: string; rule: string }[] {
  let output: string;
  const args = ['packages', '--config', path.join(ROOT, '.dependency-cruiser.cjs'), '-T', 'json'];
  const options = { cwd: root, env: { ...process.env, CLEAR_MARK_LAYERS_ROOT: root }, maxBuffer: 1 << 26 };
  try {
    output = execFileSync(path.join(ROOT, 'node_modules/.bin/depcruise'), args, options).toString();
  } catch (error) {
    output = (error as { stdout: Buffer }).stdout.toString();
  }
  const { violations } = (JSON.parse(output) as Cruised).summary;
  return violations.map((v) => ({ from: v.from, rule: v.rule.name }));
}

describe('the rules of what may import what', () => {
  it('let a tree pass that keeps to them', () => {
    for (const [file, text] of Object.entries(KEPT)) write(file, text);
    expect(broken()).toEqual([]);
  });

  it('catch every breach', () => {
    write('packages/core/src/score.test.ts', 'export const t = 1;\n');
    write('packages/server/src/ovens/ovens.store.ts', 'export const o = 1;\n');
    for (const [, file, text] of BREACHES) write(file, text);
    const found = broken();
    const missed = BREACHES.filter(([rule, file]) => {
      // Rings of rooms are told by the room.
      const from = rule === 'no-ring-of-rooms' ? path.dirname(file) : file;
      return !found.some((f) => f.rule === rule && f.from === from);
    });
    expect(missed.map(([rule, file]) => `${rule} ${file}`)).toEqual([]);
  });
});
