import { defineConfig } from '@playwright/test';

/** Journeys through the built application, on a data folder of their own. */
export default defineConfig({
  testDir: 'tests/journeys',
  globalSetup: './tests/journeys/global-setup.ts',
  outputDir: 'test-results',
  // tests go to whichever worker is free, in files whose tests do not follow one another
  fullyParallel: true,
  // each with servers and data of its own; a third works while the others wait for theirs
  workers: 3,
  // a loaded machine may miss a deadline once; the report still tells which test needed its second turn
  retries: process.env.CI ? 1 : 0,
  timeout: 90_000,
  // a browser or server that hangs at the end of a test does not hold up the run for ever
  globalTimeout: 25 * 60_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: '.cache/results/journeys.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // three browsers on two cores: threads that collect garbage beside a page wait for one another
        '--js-flags=--single-threaded-gc',
      ],
    },
    trace: 'off',
  },
});
