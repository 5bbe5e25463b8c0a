import { createHmac } from 'node:crypto';
import { localPart, readLocalPart, type Sign, type TokenUse } from '@/core/messages/answerToken';
import { config } from '../base/config';

const sign: Sign = (use, payload) =>
  createHmac('sha256', `${config().secret} mail ${use}`).update(payload).digest();

/** The address to which a copy is answered, or comes back, or a person writes to get no more; null where no mail comes in. */
export function addressOf(use: TokenUse, id: number): string | null {
  const { mailIn } = config();
  return mailIn && `${localPart(use, id, sign)}@${mailIn.domain}`;
}

/** What an address of ours stands for; null for one that we did not make. */
export function readAddress(address: string): ReturnType<typeof readLocalPart> {
  const at = address.lastIndexOf('@');
  const domain = address.slice(at + 1).toLowerCase();
  return domain === config().mailIn?.domain.toLowerCase() ? readLocalPart(address.slice(0, at), sign) : null;
}
