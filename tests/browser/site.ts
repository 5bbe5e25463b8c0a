import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { startServer } from '../support/server';
import { FIRST_PORT, MADE_DATA, TEST_ENV } from './data';

/** The application on a copy of the demo's data that one file of tests has for itself. */
export interface Site {
  readonly url: string;
  /** The data folder. */
  readonly folder: string;
  /** Where it takes answers by e-mail. */
  readonly mailInPort: number;
}

interface Running extends Site {
  readonly file: string;
  readonly stop: () => Promise<void>;
}

/** The server of a worker: begun anew for each file of tests, so that no file sees what another did. */
export class Sites {
  private running: Running | null = null;

  constructor(private readonly worker: number) {}

  /** The site of a file of tests, started if that file has none yet. */
  async of(file: string): Promise<Site> {
    if (this.running?.file !== file) {
      await this.stop();
      this.running = await this.start(file);
    }
    return this.running!;
  }

  async stop(): Promise<void> {
    await this.running?.stop();
    this.running = null;
  }

  private async start(file: string): Promise<Running> {
    const folder = mkdtempSync(join(tmpdir(), 'lantern-browser-'));
    cpSync(MADE_DATA, folder, { recursive: true });
    const mail: MailStandIn = await startMailStandIn(join(folder, 'mail'));
    const port = FIRST_PORT + this.worker;
    const mailInPort = port + 100;
    const server = await startServer(folder, port, {
      ...TEST_ENV,
      LANTERN_MAIL_IN_PORT: String(mailInPort),
      SMTP_URL: `smtp://127.0.0.1:${mail.port}`,
      LANTERN_MAIL_STANDIN: 'yes',
    });
    return {
      file,
      url: `http://localhost:${port}`,
      folder,
      mailInPort,
      stop: async () => {
        await server.stop();
        await mail.close();
        rmSync(folder, { recursive: true, force: true });
      },
    };
  }
}
