import { createServer, request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { networkList } from './networks';
import { isReadable, markPeers, PEER_HEADER, peerName, senderAddress } from './peer';

describe('who sent a request', () => {
  const proxies = networkList('10.0.0.0/8, 2001:db8::1');
  // Addresses of RFC 5737 and RFC 3849, which stand for none.
  it.each([
    ['203.0.113.5', undefined, '203.0.113.5'],
    ['203.0.113.5', '198.51.100.7', '203.0.113.5'],
    ['::ffff:203.0.113.5', undefined, '203.0.113.5'],
    ['10.1.2.3', '198.51.100.7', '198.51.100.7'],
    ['10.1.2.3', '192.0.2.1, 198.51.100.7', '198.51.100.7'],
    ['10.1.2.3', '198.51.100.7, 10.9.9.9', '198.51.100.7'],
    ['10.1.2.3', 'somebody', '10.1.2.3'],
    ['10.1.2.3', undefined, '10.1.2.3'],
    ['2001:db8::1', '198.51.100.7', '198.51.100.7'],
  ])('from %s, forwarded for %s, is %s', (socket, forwarded, sender) =>
    expect(senderAddress(socket, forwarded, proxies)).toBe(sender),
  );

  it.each([
    ['203.0.113.5', '203.0.113.5'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::'],
    ['2001:0db8:0001::6', '2001:db8:1:0::'],
    ['::1', '0:0:0:0::'],
    ['fe80::1%eth0', 'fe80:0:0:0::'],
  ])('%s counts as %s', (address, name) => expect(peerName(address)).toBe(name));

  it.each(['300.1.1.1', '10.0.0.0/33', '10.0.0.0/8/8', 'proxy', '::/129'])('%s is no proxy', (text) =>
    expect(() => networkList(text)).toThrow(/is no address/),
  );

  it.each([
    ['/c/NAV', true],
    ['/c/%E2%82%AC', true],
    ['/c/x?w=%FF', true],
    ['/c/%FF', false],
    ['/c/%', false],
  ])('the path %s can be read: %s', (url, readable) => expect(isReadable(url)).toBe(readable));
});

describe('a request to a server of this process', () => {
  let server: Server;
  let seen: { headers: Record<string, unknown>; url: string | undefined } = { headers: {}, url: '' };
  beforeAll(async () => {
    markPeers(networkList(''));
    server = createServer((incoming, outgoing) => {
      seen = { headers: { ...incoming.headers }, url: incoming.url };
      outgoing.end();
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => server.close());
  const send = (path: string, headers: Record<string, string> = {}) =>
    new Promise<void>((resolve) => {
      const { port } = server.address() as AddressInfo;
      ask({ port, host: '127.0.0.1', path, headers }, (answer) => answer.resume().on('end', resolve)).end();
    });

  it('is marked by the address of its connection, whatever it says itself', async () => {
    await send('/', {
      'x-forwarded-for': '198.51.100.7',
      [PEER_HEADER]: '198.51.100.8',
      'x-real-ip': '198.51.100.9',
    });
    expect(seen.headers[PEER_HEADER]).toBe('127.0.0.1');
    expect([seen.headers['x-forwarded-for'], seen.headers['x-real-ip']]).toEqual([undefined, undefined]);
  });

  it('is turned aside if its path cannot be read', async () => {
    await send('/c/%FF?x=1');
    expect(seen.url).toBe('/api/unreadable');
    await send('/c/%C3%A9?x=1');
    expect(seen.url).toBe('/c/%C3%A9?x=1');
  });
});
