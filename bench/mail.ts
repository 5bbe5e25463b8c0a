import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { readMail } from '@/server/mail/readMail';
import { HOSTILE_MAIL } from '../tests/support/hostileMail';
import { bound, ms, timed } from './measure';

const SIZES = [1e6, 5e6, 25e6];
/** What starting a thread takes is no matter of the mail. */
const LEAST_MS = 200;

/**
 * Reading hostile mail: its time grows no faster than its size, or it is given up within the limits; and what others of this
 * process wait meanwhile. 25 MB are five times the bytes of 5 MB.
 */
export async function benchMail(): Promise<void> {
  console.log('Hostile mail of 1, 5 and 25 MB, read in a thread');
  const folder = mkdtempSync(join(tmpdir(), 'lantern-mail-'));
  const path = join(folder, 'mail.eml');
  let worst = 0;
  let slowest = 0;
  try {
    await read(path, HOSTILE_MAIL[0]!.of(1000));
    const thread = (await read(path, HOSTILE_MAIL[0]!.of(1000))).time;
    for (const { kind, of } of HOSTILE_MAIL) {
      const times: number[] = [];
      let given = '';
      for (const size of SIZES) {
        const { time, isRead, delay } = await read(path, of(size));
        worst = Math.max(worst, delay);
        slowest = Math.max(slowest, time);
        if (!isRead) given = ', not read';
        times.push(Math.max(LEAST_MS, time - thread));
      }
      console.log(`  ${kind}: ${times.map(ms).join(', ')}${given}`);
      bound(kind, times[2]! / times[1]!, 5 * 2, 'at most');
    }
    bound('the slowest', slowest / 1000, 8, 'at most', 'seconds');
    bound('others wait', worst, 200, 'at most', 'ms');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function read(path: string, raw: Uint8Array) {
  writeFileSync(path, raw);
  const wait = monitorEventLoopDelay({ resolution: 5 });
  wait.enable();
  let isRead = false;
  const time = await timed(async () => {
    isRead = (await readMail({ path, words: true, files: true, vouchers: [] })) != null;
  });
  wait.disable();
  return { time, isRead, delay: wait.max / 1e6 };
}
