import { subscribe } from 'node:diagnostics_channel';
import type { IncomingMessage } from 'node:http';
import { isIP, type BlockList } from 'node:net';
import { isWithin, plain } from './networks';

/** The header under which handlers find the address of who sent a request. What a client says under it is overwritten. */
export const PEER_HEADER = 'x-lantern-peer';

/** What says of a request who sent it, and is worth nothing from whom nobody trusts. */
const FORWARDED = ['forwarded', 'x-forwarded-for', 'x-real-ip'];

/**
 * Who sent a request: the address of its connection, or, where that is a trusted proxy, the last one of
 * `X-Forwarded-For` that is none. What stands before it was said by the sender and means nothing.
 */
export function senderAddress(socket: string, forwardedFor: string | undefined, proxies: BlockList): string {
  let address = plain(socket);
  const said = (forwardedFor ?? '').split(',').map((part) => plain(part.trim()));
  while (isWithin(proxies, address)) {
    const before = said.pop();
    if (before === undefined || isIP(before) === 0) break;
    address = before;
  }
  return address;
}

/** What tells senders apart: an IPv4 address, or the /64 network of an IPv6 one, of which a single host has as many as it likes. */
export function peerName(address: string): string {
  if (isIP(address) !== 6) return address;
  const [head = '', tail = ''] = address.split('%')[0]!.split('::');
  const before = head.split(':').filter((part) => part !== '');
  const after = tail.split(':').filter((part) => part !== '');
  const missing = address.includes('::') ? Math.max(0, 8 - before.length - after.length) : 0;
  const groups = [...before, ...Array<string>(missing).fill('0'), ...after];
  return `${groups
    .slice(0, 4)
    .map((part) => parseInt(part, 16).toString(16))
    .join(':')}::`;
}

const holder = globalThis as typeof globalThis & { lanternPeers?: true };

/** Where requests go that the framework would fail over. */
const UNREADABLE = '/api/unreadable';

/** Doors that take forms; anywhere else the framework takes one for an action, and fails if it is none. */
const TAKES_FORMS = /^\/(api\/courses\/[^/]+\/imports|xapi(\/.*)?)$/;

/** Whether a request is a form, sent to where there is none. */
export const isLostForm = (url: string, contentType: string | undefined): boolean =>
  /^multipart\/form-data/i.test(contentType ?? '') && !TAKES_FORMS.test(url.split('?')[0]!);

/** Whether the escapes of a path are UTF-8 (RFC 3986, 2.5). */
export function isReadable(url: string): boolean {
  try {
    decodeURIComponent(url.split('?')[0]!);
    return true;
  } catch {
    return false;
  }
}

/**
 * Looks at every request of this process before anybody handles it: marks it with who sent it, leaves headers about that
 * only to trusted proxies, and turns aside what has no readable path and forms where none is taken. Called
 * once at the start.
 */
export function markPeers(proxies: BlockList): void {
  if (holder.lanternPeers) return;
  holder.lanternPeers = true;
  subscribe('http.server.request.start', (message) => {
    const { request } = message as { request: IncomingMessage };
    const socket = request.socket.remoteAddress ?? '';
    const { headers } = request;
    const said = headers['x-forwarded-for'];
    const peer = senderAddress(socket, Array.isArray(said) ? said.join(',') : said, proxies);
    if (!isWithin(proxies, plain(socket))) for (const name of FORWARDED) delete headers[name];
    headers[PEER_HEADER] = peerName(peer);
    const { url = '/' } = request;
    if (!isReadable(url) || isLostForm(url, headers['content-type'])) request.url = UNREADABLE;
  });
}

/** Who sent a request, as `markPeers` found out; requests that came by no server are all of one. */
export const peerOf = (headers: Headers): string => headers.get(PEER_HEADER) ?? 'here';
