import { expect, test as base } from '@playwright/test';
import { Sites, type Site } from './site';

/** A start of the application beside much else, in milliseconds. */
const START_MS = 300_000;

/** Tests of the whole application: each file has a server and data of its own. */
export const test = base.extend<{ site: Site }, { sites: Sites }>({
  sites: [
    async ({}, give, info) => {
      const sites = new Sites(info.workerIndex);
      await give(sites);
      await sites.stop();
    },
    { scope: 'worker', timeout: START_MS },
  ],
  site: [async ({ sites }, give, info) => give(await sites.of(info.file)), { timeout: START_MS }],
  baseURL: async ({ site }, give) => give(site.url),
});

export { expect };
