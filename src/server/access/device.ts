import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { config } from '../base/config';

/** The cookie of a device on which somebody has signed in. It signs nobody in: it only lets its owner try again. */
export const DEVICE_COOKIE = 'lantern.device';
/** How long a device is known, in seconds. */
export const DEVICE_AGE_S = 180 * 24 * 60 * 60;

const accountMark = (email: string): string =>
  createHash('sha256').update(email.trim().toLowerCase()).digest('base64url').slice(0, 22);
const signature = (text: string): string =>
  createHmac('sha256', config().secret).update(`device ${text}`).digest('base64url');

/** The value of the cookie for an account, new for each device. */
export function newDevice(email: string): string {
  const text = `${accountMark(email)}.${randomBytes(12).toString('base64url')}`;
  return `${text}.${signature(text)}`;
}

/** The name of the device that a cookie shows, if it was given to one of this account; null for any other. */
export function knownDevice(cookie: string | null | undefined, email: string): string | null {
  const [mark = '', device = '', signed = '', more] = (cookie ?? '').slice(0, 200).split('.');
  if (more !== undefined || mark !== accountMark(email)) return null;
  const [given, right] = [Buffer.from(signed), Buffer.from(signature(`${mark}.${device}`))];
  return given.length === right.length && timingSafeEqual(given, right) ? device : null;
}
