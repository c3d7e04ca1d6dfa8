import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../tools/bench/browser.ts';
import { WITHOUT_WINDOWS } from './browsers.ts';

export default defineConfig({
  testDir: './tests',
  globalSetup: './global-setup.ts',
  // Only what hangs ends here: no test is timed, and a machine may be ten times slower than another.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  workers: 2,
  fullyParallel: false,
  // What fails once is looked at: another try would hide a race of the product as well as one of the test.
  retries: 0,
  reporter: [['list'], ['json']],
  outputDir: '../test-results',
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Lisbon',
    trace: 'off',
    // What cannot be tapped says which place it was, before the whole test ends.
    actionTimeout: 120_000,
    contextOptions: { reducedMotion: 'reduce' },
    // It fetches the whole application again for every page; the tests that need it say so.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: WITHOUT_WINDOWS,
      args: CHROMIUM.args,
    },
  },
});
