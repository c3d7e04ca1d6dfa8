import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'packages/{core,contract,words,methods,sim,standins,demo}/src/**/*.test.ts',
            'tools/**/*.test.ts',
          ],
          testTimeout: 20_000,
        },
      },
      {
        test: { name: 'web', include: ['packages/web/src/**/*.test.ts'] },
      },
      {
        test: {
          name: 'server',
          include: ['packages/server/**/*.test.ts'],
          globalSetup: ['packages/server/test/global-setup.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
        },
      },
    ],
  },
});
