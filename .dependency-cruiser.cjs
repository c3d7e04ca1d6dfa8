/** Imports run downward only; see ARCHITECTURE.md. */
const layers = ['core', 'contract', 'words', 'methods', 'sim'];
const tops = ['standins', 'demo', 'server', 'web'];

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

module.exports = {
  forbidden: [
    ...upward,
    ...sideways,
    {
      name: 'no-ring',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'server-feature-by-its-index',
      severity: 'error',
      from: { path: '^packages/server/src/([^/]+)/' },
      to: {
        path: '^packages/server/src/(attempts|classes|instruments|methods|people|references|results|chain)/',
        pathNot: ['^packages/server/src/$1/', '/index\\.ts$'],
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
