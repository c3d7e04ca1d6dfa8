/**
 * Imports run downward only; see ARCHITECTURE.md. The rooms are read from the folders, so that a new one is held to the rules
 * from its first file on. `tools/layers.test.ts` breaks every rule once.
 */
const { readdirSync } = require('node:fs');
const path = require('node:path');

const root = process.env.CLEAR_MARK_LAYERS_ROOT ?? __dirname;
const foldersOf = (folder) =>
  readdirSync(path.join(root, folder), { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .map((entry) => entry.name);

/** From the bottom to the top; a package that is not named here stands beside the others at the top. */
const layers = ['core', 'contract', 'words', 'methods', 'paper', 'sim'];
const tops = foldersOf('packages').filter((name) => !layers.includes(name));

const upward = layers.map((name, i) => ({
  name: `${name}-imports-nothing-above`,
  severity: 'error',
  from: { path: `^packages/${name}/` },
  to: { path: `^packages/(${[...layers.slice(i + 1), ...tops].join('|')})/` },
}));
const sideways = tops.map((name) => ({
  name: `${name}-stands-alone`,
  severity: 'error',
  // Tests of the server put it in front of simulated instruments.
  from: { path: `^packages/${name}/(?!test/)` },
  to: { path: `^packages/(${tops.filter((t) => t !== name).join('|')})/` },
}));

/** What every feature of the server stands on; all other folders are features, reached by their index. */
const ground = ['clock', 'database', 'errors', 'http', 'migrations'];
const features = foldersOf('packages/server/src').filter((name) => !ground.includes(name));
const groundFirst = {
  name: 'server-ground-knows-no-feature',
  severity: 'error',
  from: { path: `^packages/server/src/(${ground.join('|')})/` },
  to: { path: `^packages/server/src/(${features.join('|')})/` },
};

module.exports = {
  forbidden: [
    ...upward,
    ...sideways,
    groundFirst,
    {
      name: 'no-ring',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      // Two rooms that need each other are one room, whatever their files do.
      name: 'no-ring-of-rooms',
      severity: 'error',
      scope: 'folder',
      from: { path: '^packages/[^/]+/src/' },
      to: { circular: true },
    },
    {
      name: 'server-feature-by-its-index',
      severity: 'error',
      from: { path: '^packages/server/src/([^/]+)/' },
      to: {
        path: `^packages/server/src/(${features.join('|')})/`,
        pathNot: ['^packages/server/src/$1/', '/index\\.ts$'],
      },
    },
    {
      name: 'server-top-by-the-index',
      severity: 'error',
      from: { path: '^packages/server/src/[^/]+\\.ts$' },
      to: {
        path: `^packages/server/src/(${features.join('|')})/`,
        pathNot: '/index\\.ts$',
      },
    },
    {
      name: 'web-feature-stays-in-its-room',
      severity: 'error',
      from: { path: '^packages/web/src/features/([^/]+)/' },
      to: {
        path: '^packages/web/src/features/',
        pathNot: ['^packages/web/src/features/$1/', '/index\\.ts$'],
      },
    },
    {
      name: 'web-ground-knows-no-feature',
      severity: 'error',
      from: { path: '^packages/web/src/(?!features/)[^/]+/' },
      to: { path: '^packages/web/src/features/' },
    },
    {
      name: 'core-uses-no-package',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'] },
    },
    {
      name: 'product-imports-no-test',
      severity: 'error',
      from: { pathNot: ['\\.test\\.ts$', '/test/', '^e2e/'] },
      to: { path: ['\\.test\\.ts$', '/test/'] },
    },
    {
      name: 'resolvable',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: ['^virtual:', '\\.css$'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['node_modules', 'dist'] },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default', 'types'] },
  },
};
