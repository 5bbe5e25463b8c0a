/** The data folder of the server that the browser tests share. */
export const TEST_DATA = process.env.LANTERN_TEST_DATA ?? '.lantern-browser-tests';

/** The same data as it was before any test. */
export const MADE_DATA = `${TEST_DATA}-made`;
