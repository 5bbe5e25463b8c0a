import { lookup } from 'node:dns/promises';
import { createWriteStream } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import { isIP } from 'node:net';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import ipaddr from 'ipaddr.js';
import { config } from '../base/config';
import { invalid, UseCaseError } from '../base/errors';
import { isDiskFull } from '../base/failure';
import { isWithin, networkList, plain } from '../base/networks';
import { UPLOAD_LIMITS } from '../intake/receive';

/** How long a link may take to answer in full. */
const PATIENCE_MS = 120_000;
/** How often an answer may send on to another address. */
const MOST_HOPS = 5;

const NOT_PUBLIC =
  'The link leads to an address that is not public. Whoever runs Ready Lantern can allow its network (LANTERN_LINKS_TO).';

/** Whether a file may be fetched from an address: any that is public, and those of the networks in the settings. */
export function mayFetchFrom(address: string, allowed = config().linksTo): boolean {
  if (isWithin(networkList(allowed), plain(address))) return true;
  // `process` reads IPv4 that is written as IPv6 for what it is.
  return isIP(address) !== 0 && ipaddr.process(address).range() === 'unicast';
}

/** The address of a host that may be asked. It is the one that is then connected to, whatever names say a moment later. */
async function addressOf(host: string): Promise<{ address: string; family: number }> {
  const literal = host.replace(/^\[|\]$/g, '');
  const family = isIP(literal);
  const all = family === 0 ? await lookup(host, { all: true }) : [{ address: literal, family }];
  const found = all.find(({ address }) => mayFetchFrom(address));
  if (!found) throw invalid(NOT_PUBLIC);
  return found;
}

/** What a link answers, once it does not send on any more. */
async function answerOf(link: URL, signal: AbortSignal, hops = 0): Promise<http.IncomingMessage> {
  if (link.protocol !== 'http:' && link.protocol !== 'https:')
    throw invalid('The link sends on to something that is no web address.');
  const { address, family } = await addressOf(link.hostname);
  const answer = await new Promise<http.IncomingMessage>((resolve, reject) => {
    const request = (link.protocol === 'https:' ? https : http).get(
      link,
      {
        signal,
        agent: false,
        headers: { 'user-agent': 'Ready-Lantern', accept: '*/*', 'accept-encoding': 'identity' },
        lookup: (_host, options, done) =>
          options.all ? done(null, [{ address, family }]) : done(null, address, family),
      },
      resolve,
    );
    request.on('error', reject);
  });
  const { statusCode = 0, headers } = answer;
  if (statusCode >= 300 && statusCode < 400 && headers.location != null) {
    answer.destroy();
    if (hops >= MOST_HOPS) throw invalid('The link sends on again and again.');
    if (!URL.canParse(headers.location, link)) throw invalid('The link sends on to no address.');
    return answerOf(new URL(headers.location, link), signal, hops + 1);
  }
  if (statusCode === 200) return answer;
  answer.destroy();
  throw invalid(
    `The link answers ${statusCode}${statusCode === 401 || statusCode === 403 ? ': it asks for a sign-in' : ''}.`,
  );
}

/** The name that an answer gives its file (RFC 6266), or that the link ends with. */
export function nameOf(disposition: string | undefined, link: URL): string {
  const given =
    /filename\*\s*=\s*utf-8''([^;]+)/i.exec(disposition ?? '')?.[1] ??
    /filename\s*=\s*(?:"([^"]+)"|([^";\s]+))/i
      .exec(disposition ?? '')
      ?.slice(1)
      .find(Boolean);
  const last = given ?? link.pathname.split('/').filter(Boolean).at(-1) ?? link.hostname;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}

const WORDS: Readonly<Record<string, string>> = {
  ENOTFOUND: 'its host is not known',
  EAI_AGAIN: 'its host cannot be looked up now',
  ECONNREFUSED: 'nobody answers there',
  ECONNRESET: 'the answer was cut off',
  ABORT_ERR: `it took more than ${PATIENCE_MS / 60_000} minutes`,
};

/**
 * Fetches the file of a link (HTTP, RFC 9110) to a path. Only public addresses are asked, and those that the settings
 * allow, at each place it sends on to. Returns the name of the file; says in words why there is none.
 */
export async function fetchLink(link: string, path: string): Promise<string> {
  const signal = AbortSignal.timeout(PATIENCE_MS);
  try {
    const url = new URL(link);
    const answer = await answerOf(url, signal);
    let size = 0;
    const counting = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        size += chunk.length;
        done(
          size > UPLOAD_LIMITS.bytes ? invalid('The file of the link is larger than 200 MB.') : null,
          chunk,
        );
      },
    });
    await pipeline(answer, counting, createWriteStream(path), { signal });
    return nameOf(answer.headers['content-disposition'], url);
  } catch (error) {
    if (error instanceof UseCaseError || isDiskFull(error)) throw error;
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    throw invalid(`The link cannot be fetched: ${WORDS[code] ?? 'the answer cannot be read'}.`);
  }
}
