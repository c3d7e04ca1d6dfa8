import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';
import checkThenWrite from './tools/lint/check-then-write.js';

/** What dodges the formatter and the limits of lines is written out instead. */
const WRITTEN_OUT = [
  {
    selector: 'ObjectExpression > SpreadElement > ObjectExpression.argument',
    message: 'write the fields out, one a line',
  },
  {
    selector: 'ArrayExpression > SpreadElement > ArrayExpression.argument',
    message: 'write the elements out',
  },
  {
    selector:
      'VariableDeclarator[id.type="ArrayPattern"][init.type="ArrayExpression"]:not([id.typeAnnotation])',
    message: 'one declaration a name',
  },
];
const pure = ['packages/{core,contract,words,methods,sim,demo}/src/**/*.ts'];

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.clear-mark/**', 'coverage/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
  },
  {
    rules: {
      'no-undef': 'off',
      eqeqeq: 'error',
      'no-console': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      'no-restricted-syntax': ['error', ...WRITTEN_OUT],
      'max-lines': ['error', { max: 420, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
    },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    // A store is an object of small functions; a migration is one text; a method is data.
    files: [
      '**/*.store.ts',
      'packages/methods/src/**/*.ts',
      '**/migrations/*.ts',
      '**/*.vue',
      '**/*.test.ts',
      'e2e/**',
      'tools/**',
    ],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    // What connects a page is a function of small functions.
    files: ['packages/web/src/**/use-*.ts', 'packages/web/src/storage/queue.ts'],
    rules: {
      'max-lines-per-function': ['error', { max: 120, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['packages/web/src/**/*.vue'],
    rules: { 'max-lines': ['error', 300] },
  },
  {
    // One doorway each to the server, to its streams, to what a device keeps, and to workers.
    files: ['packages/web/src/**/*.{ts,vue}'],
    ignores: [
      'packages/web/src/api/**',
      'packages/web/src/storage/**',
      'packages/web/src/workers/**',
      'packages/web/src/service-worker.ts',
      '**/*.test.ts',
    ],
    rules: {
      'no-restricted-globals': [
        'error',
        { name: 'fetch', message: 'api/client.ts asks the server' },
        { name: 'EventSource', message: 'api/event-stream.ts opens streams' },
        { name: 'localStorage', message: 'storage/device-settings.ts keeps settings' },
        { name: 'sessionStorage', message: 'nothing is kept there' },
        { name: 'indexedDB', message: 'storage/device-store.ts keeps what a device has' },
      ],
    },
  },
  {
    // Listeners and clocks of a view end with it. What lasts as long as the page stands in the files left out here.
    files: ['packages/web/src/**/*.{ts,vue}'],
    ignores: [
      'packages/web/src/**/*.test.ts',
      'packages/web/src/{api,classroom,instruments,storage}/**',
      'packages/web/src/shell/{timers,update}.ts',
      'packages/web/src/service-worker.ts',
      'packages/web/src/features/faces/inspect/{use-stand-in.ts,CameraPanel.vue}',
      'packages/web/src/shared/{time-words,day-range.model}.ts',
    ],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...WRITTEN_OUT,
        {
          selector: 'CallExpression[callee.property.name="addEventListener"]',
          message: 'useEventListener ends with the view',
        },
        {
          selector: 'CallExpression[callee.name="setInterval"]',
          message: 'useIntervalFn ends with the view',
        },
        {
          selector: 'CallExpression[callee.property.name=/^toLocale(Date|Time)?String$/]',
          message: 'momentWords and dayText say it in the zone of the class',
        },
      ],
    },
  },
  {
    // No clock, no randomness but a seed handed in.
    files: pure,
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'take a seeded generator as a parameter' },
        { object: 'Date', property: 'now', message: 'take the instant as a parameter' },
      ],
      'no-restricted-syntax': [
        'error',
        ...WRITTEN_OUT,
        {
          selector: 'NewExpression[callee.name="Date"][arguments.length=0]',
          message: 'take the instant as a parameter',
        },
      ],
    },
  },
  {
    // Settings come through config.ts.
    files: ['packages/server/src/**/*.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'process', property: 'env', message: 'config.ts reads settings' },
      ],
    },
  },
  {
    // SQL stands in stores; what lies under them is in database/ and migrations/.
    files: ['packages/server/src/**/*.ts'],
    ignores: ['**/*.store.ts', 'packages/server/src/database/**', 'packages/server/src/migrations/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...WRITTEN_OUT,
        { selector: 'CallExpression[callee.name=/^(db|trx|tx)$/]', message: 'SQL stands in a store' },
        {
          selector: "CallExpression[callee.property.name='raw'][callee.object.name!='express']",
          message: 'SQL stands in a store',
        },
        { selector: "ImportSpecifier[imported.name='rowsOf']", message: 'SQL stands in a store' },
      ],
    },
  },
  {
    // What is looked at before a change is looked at in the transaction that makes it.
    files: ['packages/server/src/**/*.ts'],
    ignores: [
      '**/*.store.ts',
      '**/*.test.ts',
      'packages/server/src/database/**',
      'packages/server/src/migrations/**',
    ],
    plugins: { server: { rules: { 'check-then-write': checkThenWrite } } },
    rules: {
      'server/check-then-write': [
        'error',
        { stores: new URL('packages/server/src', import.meta.url).pathname },
      ],
    },
  },
  prettier,
);
