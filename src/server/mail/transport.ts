import { BlockList, isIP } from 'node:net';
import { createTransport, type Transporter } from 'nodemailer';
import type SMTPPool from 'nodemailer/lib/smtp-pool';
import { config } from '../base/config';

const loopback = new BlockList();
loopback.addSubnet('127.0.0.0', 8, 'ipv4');
loopback.addAddress('::1', 'ipv6');

/** Whether a host is this machine itself, so that nobody listens on the way. */
function isLoopback(host: string): boolean {
  const address = host.replace(/^\[|\]$/g, '');
  const family = isIP(address);
  return family === 0 ? address === 'localhost' : loopback.check(address, family === 4 ? 'ipv4' : 'ipv6');
}

/**
 * How mail goes to a server: in clear to this machine only; to any other by TLS (`smtps`) or STARTTLS (RFC 3207), and
 * not at all where neither is offered.
 *
 * @param url of the mail server, `smtp://` or `smtps://`
 * @param mayBePlain the settings allow mail in clear to a server that offers nothing else
 */
export function mailOptions(url: string, mayBePlain: boolean): SMTPPool.Options {
  const pool = { url, pool: true, maxConnections: 1 } as const;
  if (isLoopback(new URL(url).hostname)) return { ...pool, ignoreTLS: true };
  return mayBePlain ? pool : { ...pool, requireTLS: true };
}

/** The way to the mail server of the settings; null if none is set up. Close it after use. */
export function mailTransport(): Transporter | null {
  const { smtpUrl, mailMayBePlain } = config();
  return smtpUrl ? createTransport(mailOptions(smtpUrl, mailMayBePlain)) : null;
}
