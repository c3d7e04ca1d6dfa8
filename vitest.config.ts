import vue from '@vitejs/plugin-vue';
import Components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import { defineConfig } from 'vitest/config';

/** Only what hangs ends here: no test is timed, and a machine may be ten times slower than another. */
const HANGS_MS = 180_000;

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'packages/{core,contract,words,methods,paper,sim,standins,demo}/src/**/*.test.ts',
            'tools/**/*.test.ts',
          ],
          testTimeout: HANGS_MS,
          hookTimeout: HANGS_MS,
          // Nothing here changes what a module holds, so files share what they import: a fifth of the time.
          pool: 'threads',
          isolate: false,
          maxWorkers: 2,
        },
      },
      {
        // Components are mounted as they are built; their styles are the browser tests' matter.
        plugins: [
          vue(),
          Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: false })] }),
        ],
        test: {
          name: 'web',
          include: ['packages/web/src/**/*.test.ts'],
          setupFiles: ['packages/web/test/setup.ts'],
          testTimeout: HANGS_MS,
          hookTimeout: HANGS_MS,
          // Each file mounts what it looks at and leaves nothing behind: half of the time.
          isolate: false,
          maxWorkers: 2,
          server: { deps: { inline: ['element-plus'] } },
        },
      },
      {
        test: {
          name: 'server',
          include: ['packages/server/**/*.test.ts'],
          globalSetup: ['packages/server/test/global-setup.ts'],
          testTimeout: HANGS_MS,
          hookTimeout: HANGS_MS,
          maxWorkers: 2,
          // Each file has a database and a server of its own.
          isolate: false,
        },
      },
    ],
  },
});
