import type { Database } from '@/data/database';
import { networkList } from './base/networks';
import { markPeers } from './base/peer';
import { config } from './base/config';
import { database } from './base/database';
import { queueFeeds } from './feeds/queueFeed';
import { queueLeftOver } from './xapi/catchUp';
import { noneArriving } from './intake/arrival';
import { startRunner } from './jobs/runner';
import { HANDLERS } from './work';
import { queueUnsent } from './mail/dispatch';
import { queueLetters } from './mail/letters';
import { startMailIn } from './mail/listener';
import { setConfiguredCredential } from './xapi/credentials';

/**
 * Opens the database and goes on with what a stop left in the queue. A failure here would answer every request with an
 * error, so the process says why in one line and ends.
 */
export async function start(): Promise<void> {
  try {
    markPeers(networkList(config().proxies));
    const db = await database();
    await setConfiguredCredential(db);
    if (db.kind === 'embedded') await noneArriving(db);
    await queueLeftOver(db);
    await queueUnsent(db);
    await queueLetters(db);
    await queueFeeds(db);
    await startRunner(db, HANDLERS);
    await takeMailIn(db);
  } catch (error) {
    console.error(`Ready Lantern cannot start: ${error instanceof Error ? error.message : 'unknown error'}`);
    process.exit(1);
  }
}

/** Takes answers by e-mail where that is set up. Of several processes on a machine the first has the port; one suffices. */
async function takeMailIn(db: Database): Promise<void> {
  const { mailIn } = config();
  if (!mailIn) return;
  try {
    await startMailIn(db, mailIn);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EADDRINUSE')) throw error;
    console.warn(
      `Mail is not taken in here: port ${mailIn.port} is in use, by another process of ours or of others.`,
    );
  }
}
