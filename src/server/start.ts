import { markPeers, proxyList } from './base/peer';
import { config } from './base/config';
import { database } from './base/database';
import { queueLeftOver } from './xapi/catchUp';
import { noneArriving } from './intake/arrival';
import { startRunner } from './jobs/runner';
import { HANDLERS } from './work';
import { queueUnsent } from './mail/dispatch';
import { setConfiguredCredential } from './xapi/credentials';

/**
 * Opens the database and goes on with what a stop left in the queue. A failure here would answer every request with an
 * error, so the process says why in one line and ends.
 */
export async function start(): Promise<void> {
  try {
    markPeers(proxyList(config().proxies));
    const db = await database();
    await setConfiguredCredential(db);
    if (db.kind === 'embedded') await noneArriving(db);
    await queueLeftOver(db);
    await queueUnsent(db);
    await startRunner(db, HANDLERS);
  } catch (error) {
    console.error(`Ready Lantern cannot start: ${error instanceof Error ? error.message : 'unknown error'}`);
    process.exit(1);
  }
}
