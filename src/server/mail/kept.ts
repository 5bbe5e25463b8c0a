import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { keptFileName } from '@/core/messages/messageId';
import { config } from '../base/config';

/** Whether mail goes to the stand-in that ships with the demo, which keeps a copy of all it accepts. */
export const usesStandIn = (): boolean => config().usesMailStandIn;

/** The copy of a message that the mail stand-in accepted, as it came over the wire; null if there is none. */
export async function keptMail(messageId: string): Promise<Buffer | null> {
  if (!usesStandIn()) return null;
  const file = join(config().mailFolder, keptFileName(messageId));
  return existsSync(file) ? readFile(file) : null;
}
