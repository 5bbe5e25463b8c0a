/** The data folder of the server that the browser tests share. */
export const TEST_DATA = process.env.LANTERN_TEST_DATA ?? '.lantern-browser-tests';

/** The same data as it was before any test. */
export const MADE_DATA = `${TEST_DATA}-made`;

/** Where the shared server takes answers by e-mail. */
export const MAIL_IN_PORT = Number(process.env.LANTERN_TEST_PORT ?? 3219) + 100;

/** What the servers of the browser tests are told. */
export const TEST_ENV = {
  LANTERN_DATA: TEST_DATA,
  LANTERN_NOW: '2026-11-25T10:35:00Z',
  LANTERN_XAPI_KEY: 'test-key',
  LANTERN_XAPI_SECRET: 'a secret for tests',
};
