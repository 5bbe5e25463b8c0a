import { join } from 'node:path';

/** The demo's data as it is before any test: made once, and copied for each file of tests. */
export const MADE_DATA = join(import.meta.dirname, '../../.lantern-browser-tests-made');

/** The first of the ports that servers of tests take: each worker has one, and one that follows a failed worker another. */
export const FIRST_PORT = Number(process.env.LANTERN_TEST_PORT ?? 3240);

/** What the servers of the browser tests are told. */
export const TEST_ENV = {
  LANTERN_NOW: '2026-11-25T10:35:00Z',
  LANTERN_XAPI_KEY: 'test-key',
  LANTERN_XAPI_SECRET: 'a secret for tests',
  LANTERN_XAPI_COURSE: 'NAV-110',
  LANTERN_MAIL_VOUCHED_BY: 'mail.saltmarsh.example',
};
