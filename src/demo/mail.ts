import { config } from '@/server/base/config';
import { startMailStandIn } from './mailStandIn';

/** Runs the mail stand-in until stopped, and says on its first line which port it took. */
startMailStandIn(config().mailFolder).then(
  ({ port }) => process.stdout.write(`${port}\n`),
  (error: unknown) => {
    console.error(error instanceof Error ? error.message : error);
    process.exit(1);
  },
);
