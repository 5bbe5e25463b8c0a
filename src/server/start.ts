import { markPeers, proxyList } from './access/peer';
import { config } from './config';
import { database } from './database';
import { deriveMissing } from './derive/catchUp';
import { setConfiguredCredential } from './xapi/credentials';
import { catchUpAll } from './xapi/follow';
import { dispatchMail, recoverMail } from './mail/dispatch';

/**
 * Opens the database and sends what was queued. A failure here would answer every request with an error, so the
 * process says why in one line and ends.
 */
export async function start(): Promise<void> {
  try {
    markPeers(proxyList(config().proxies));
    const db = await database();
    await deriveMissing(db);
    await setConfiguredCredential(db);
    await catchUpAll(db);
    await recoverMail();
    void dispatchMail();
  } catch (error) {
    console.error(`Ready Lantern cannot start: ${error instanceof Error ? error.message : 'unknown error'}`);
    process.exit(1);
  }
}
