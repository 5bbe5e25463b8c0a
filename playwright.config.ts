import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** Debian's build without a window, or the one with. */
const chromium = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path));

/** The longest, begun first: begun last, it would leave the other core with nothing to do. */
const LONG = /kills/;

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/browser/prepare.ts',
  workers: 2,
  projects: [
    { name: 'long', testMatch: LONG },
    { name: 'rest', testIgnore: LONG },
  ],
  // What passes only at its second try is named at the end of the run, with the trace of its first.
  retries: process.env.CI ? 1 : 0,
  // Roomy: a slow machine must not fail what works; what does not work fails a little later.
  timeout: 900_000,
  expect: { timeout: 180_000, toPass: { timeout: 360_000 } },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 180_000,
    navigationTimeout: 180_000,
    // What was done and asked of the server, not the pictures: those cost a third of the time.
    trace: { mode: 'retain-on-failure', screenshots: false, snapshots: false, sources: false },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? chromium,
      // The browser of a test has nobody to call.
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
