import { createHash } from 'node:crypto';
import { getSessionCookie } from 'better-auth/cookies';
import { MINUTE_MS } from '@/core/units';
import { COOKIE_PREFIX } from './auth';

/** How long a session that was looked up counts as known. */
const KNOWN_MS = 10 * MINUTE_MS;
/** Sessions remembered at most; the oldest go. */
const MOST = 2000;

interface Seen {
  readonly userId: string;
  readonly at: number;
}
/** On the global object: route handlers and actions load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternSeen?: Map<string, Seen> };
const seen = (): Map<string, Seen> => (holder.lanternSeen ??= new Map());

/** What a session is remembered by: a hash, so that nothing in memory signs anybody in. */
function keyOf(headers: Headers): string | null {
  const cookie = getSessionCookie(headers, { cookiePrefix: COOKIE_PREFIX });
  return cookie ? createHash('sha256').update(cookie).digest('base64') : null;
}

/** Remembers that the database has just said whose session this is. */
export function rememberSession(headers: Headers, userId: string): void {
  const key = keyOf(headers);
  if (!key) return;
  seen().delete(key);
  seen().set(key, { userId, at: performance.now() });
  for (const oldest of seen().keys()) {
    if (seen().size <= MOST) break;
    seen().delete(oldest);
  }
}

/**
 * Whose session this is, if the database has said so in the last minutes; null if it must be asked. For what must be
 * answered while the database is held by a long piece of work: how far that work is, and stopping it. For nothing
 * else, since a session that was ended meanwhile still counts here.
 */
export function seenLately(headers: Headers): string | null {
  const key = keyOf(headers);
  const found = key ? seen().get(key) : undefined;
  return found && performance.now() - found.at < KNOWN_MS ? found.userId : null;
}
