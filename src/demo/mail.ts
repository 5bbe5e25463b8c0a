import { config } from '@/server/base/config';
import { startMailboxes } from './mailboxes';
import { startMailStandIn } from './mailStandIn';

/** Runs the mail stand-in and the mailboxes until stopped, and says on its first line which ports they took. */
async function main(): Promise<void> {
  const { mailFolder, mailIn } = config();
  const standIn = await startMailStandIn(mailFolder);
  const boxes = await startMailboxes(mailFolder, mailIn?.port ?? null);
  process.stdout.write(`${standIn.port} ${boxes.port}\n`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
