import { existsSync } from 'node:fs';
import { chromium, type Browser } from '@playwright/test';

/** The browser that pages are measured in. */
export const launchBrowser = (): Promise<Browser> =>
  chromium.launch({
    executablePath:
      process.env.CHROMIUM ??
      ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
