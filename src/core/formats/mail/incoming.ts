import { convert } from 'html-to-text';
import { simpleParser, type Attachment, type ParsedMail } from 'mailparser';
import { whole } from '../brokenText';
import { readDeliveryStatus, type Delivery } from './deliveryReport';
import { ownWords } from './ownWords';
import { isVouchedFor } from './vouched';

/** An e-mail that came in, as far as it concerns us. */
export interface Incoming {
  /** Its Message-ID; null without one. */
  readonly id: string | null;
  readonly from: string | null;
  /** The receiving server says that it really comes from that address (RFC 8601). */
  readonly vouched: boolean;
  /** What its writer wrote, without what they quote. */
  readonly words: string;
  /** Sent by a machine, so that nobody waits for an answer to it (RFC 3834, section 5). */
  readonly automatic: boolean;
  readonly attachments: number;
  /** Of a delivery report, what it says of each recipient and of which message; otherwise null. */
  readonly report: { readonly of: string | null; readonly deliveries: readonly Delivery[] } | null;
}

/** Longest answer that is kept, in characters. */
export const MOST_WORDS = 20_000;
/** Characters of a mail's text that are looked at: what its writer wrote comes first, quotes come after. */
const MOST_TEXT = 200_000;
/** The longest Message-ID that counts as one: a line of a mail has at most 998 characters (RFC 5322, section 2.1.1). */
const MOST_ID = 998;

const PARSING = {
  // Text is made from HTML by us, with limits; links and pictures are of no use here.
  skipHtmlToText: true,
  skipTextToHtml: true,
  skipImageLinks: true,
  skipTextLinks: true,
  keepDeliveryStatus: true,
} as const;

/** Parses an e-mail (RFC 5322, MIME) from its bytes. Its time grows with its size and no faster; throws if it can't be read. */
export const parseMail = (raw: Uint8Array): Promise<ParsedMail> =>
  simpleParser(Buffer.from(raw.buffer, raw.byteOffset, raw.byteLength), PARSING);

/** The value of a field of the head, unfolded; empty without one. */
function fieldOf(mail: ParsedMail, name: string): string {
  const line = mail.headerLines.find((h) => h.key === name)?.line ?? '';
  return line
    .slice(line.indexOf(':') + 1)
    .replace(/\r?\n[ \t]+/g, ' ')
    .trim();
}

/** Whether the head says that a machine sent it: RFC 3834, and what older programs say. */
function isAutomatic(mail: ParsedMail): boolean {
  const lower = (name: string) => fieldOf(mail, name).toLowerCase();
  const auto = lower('auto-submitted');
  if (auto !== '' && !auto.startsWith('no')) return true;
  return (
    /^(bulk|junk|list|auto_reply)\b/.test(lower('precedence')) ||
    lower('x-auto-response-suppress') !== '' ||
    lower('x-autoreply') !== '' ||
    lower('list-id') !== ''
  );
}

/** Text of HTML, for a mail that has nothing plain. It is only ever shown as text. */
function textOfHtml(html: string): string {
  const read = (quotes: 'skip' | 'block') =>
    convert(html.slice(0, MOST_TEXT), {
      wordwrap: false,
      // Deeper and wider than anything that people write.
      limits: { maxDepth: 60, maxChildNodes: 5000, ellipsis: '' },
      selectors: [
        { selector: 'blockquote', format: quotes },
        { selector: 'img', format: 'skip' },
        { selector: 'a', options: { ignoreHref: true } },
        { selector: 'p', options: { leadingLineBreaks: 1, trailingLineBreaks: 1 } },
        ...[1, 2, 3, 4, 5, 6].map((n) => ({ selector: `h${n}`, options: { uppercase: false } })),
      ],
    });
  const own = read('skip');
  return own.trim() === '' ? read('block') : own;
}

const typeOf = (a: Attachment) => a.contentType.toLowerCase();

/** What a report (RFC 3462, 3464) says, and the Message-ID of the message it returns. */
function reportIn(mail: ParsedMail): Incoming['report'] {
  if (!/^multipart\/report\b/i.test(fieldOf(mail, 'content-type'))) return null;
  const status = mail.attachments.find((a) => typeOf(a) === 'message/delivery-status');
  if (!status) return null;
  const original = mail.attachments.find((a) =>
    ['message/rfc822', 'text/rfc822-headers', 'message/rfc822-headers'].includes(typeOf(a)),
  );
  const head = original?.content.subarray(0, 64 * 1024).toString('utf8') ?? '';
  const of = /^message-id:[ \t]*(?:\r?\n[ \t]+)?(<[^<>\s]{1,990}>)/im.exec(head)?.[1] ?? null;
  return { of, deliveries: readDeliveryStatus(status.content.subarray(0, 256 * 1024).toString('utf8')) };
}

/**
 * Reads an e-mail (RFC 5322, MIME) from its bytes.
 *
 * @param vouchers names of servers whose word on a sender counts (see `isVouchedFor`)
 * @throws an error if it can't be read as a mail, for example because it is nested too deep
 */
export async function readIncoming(raw: Uint8Array, vouchers: readonly string[] = []): Promise<Incoming> {
  const mail = await parseMail(raw);
  const text = mail.text?.trim() ? mail.text.slice(0, MOST_TEXT) : textOfHtml(mail.html || '');
  const report = reportIn(mail);
  const from = mail.from?.value[0]?.address?.toLowerCase() || null;
  const id = mail.messageId ?? null;
  return {
    id: id != null && id.length <= MOST_ID ? whole(id) : null,
    from: from == null ? null : whole(from).slice(0, 320),
    vouched: isVouchedFor(
      from,
      mail.headerLines.filter((h) => h.key === 'authentication-results').map((h) => h.line),
      vouchers,
    ),
    words: whole(ownWords(text)).slice(0, MOST_WORDS),
    automatic: isAutomatic(mail) || report != null,
    attachments: mail.attachments.length - (report ? 1 : 0),
    report,
  };
}
