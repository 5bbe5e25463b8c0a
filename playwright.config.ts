import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { MAIL_IN_PORT, TEST_ENV } from './tests/browser/data';

/** Debian's build without a window, or the one with. */
const chromium = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path));
const port = Number(process.env.LANTERN_TEST_PORT ?? 3219);

export default defineConfig({
  testDir: 'tests/browser',
  // One after the other on the server that they share; beside them those that have servers of their own.
  workers: 2,
  projects: [
    { name: 'shared', testIgnore: /kills|unsent|hostile|processes/, workers: 1 },
    { name: 'own servers', testMatch: /kills|unsent|hostile|processes/, workers: 1 },
  ],
  // A machine of others may stand still for minutes. What passes only at its second try is named at the end of the run.
  retries: process.env.CI ? 1 : 0,
  // Roomy: a slow machine must not fail what works; what does not work fails a little later.
  timeout: 900_000,
  expect: { timeout: 180_000, toPass: { timeout: 360_000 } },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 180_000,
    navigationTimeout: 180_000,
    // Recording costs a third of the time.
    trace: process.env.CI ? 'off' : 'retain-on-failure',
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
  webServer: {
    // The very command that a newcomer runs, on a folder of its own.
    command: 'node tests/browser/serve.mjs',
    url: `http://localhost:${port}/api/health`,
    timeout: 600_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
    env: {
      PORT: String(port),
      LANTERN_CALL_BACK_S: '0',
      LANTERN_MAIL_IN_PORT: String(MAIL_IN_PORT),
      ...TEST_ENV,
    },
    stdout: 'pipe',
  },
});
