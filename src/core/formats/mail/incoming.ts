import PostalMime, { type Email } from 'postal-mime';
import { ownWords } from './ownWords';
import { readDeliveryStatus, type Delivery } from './deliveryReport';

/** An e-mail that came in, as far as it concerns us. */
export interface Incoming {
  /** Its Message-ID; null without one. */
  readonly id: string | null;
  readonly from: string | null;
  /** What its writer wrote, without what they quote. */
  readonly words: string;
  /** Sent by a machine, so that nobody waits for an answer to it (RFC 3834, section 5). */
  readonly automatic: boolean;
  readonly attachments: number;
  /** Of a delivery report, what it says of each recipient; else null. */
  readonly deliveries: readonly Delivery[] | null;
}

/** Longest answer that is kept, in characters. */
export const MOST_WORDS = 20_000;

const headerOf = (mail: Email, name: string): string =>
  mail.headers
    .find((h) => h.key === name)
    ?.value.trim()
    .toLowerCase() ?? '';

/** Whether the headers say that a machine sent it: RFC 3834, and what those say that are older than it. */
function isAutomatic(mail: Email): boolean {
  const auto = headerOf(mail, 'auto-submitted');
  if (auto !== '' && !auto.startsWith('no')) return true;
  return (
    /^(bulk|junk|list|auto_reply)\b/.test(headerOf(mail, 'precedence')) ||
    headerOf(mail, 'x-auto-response-suppress') !== '' ||
    headerOf(mail, 'x-autoreply') !== '' ||
    headerOf(mail, 'list-id') !== ''
  );
}

const CHARACTERS: Readonly<Record<string, string>> = {
  '&nbsp;': ' ',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&#39;': "'",
};
/** The words of HTML, where a mail has nothing plain. It is only ever shown as text. */
const plainOf = (html: string): string =>
  html
    .replace(/<(style|script|head)\b[\s\S]*?<\/\1>/gi, '')
    .replace(/<blockquote\b[\s\S]*<\/blockquote>/gi, '')
    .replace(/<br\s*\/?>|<\/(p|div|li|h\d|tr)>/gi, '\n')
    .replace(/<[^>]*>/g, '')
    .replace(/&(?:nbsp|lt|gt|quot|#39);/g, (c) => CHARACTERS[c]!)
    .replaceAll('&amp;', '&');

const textOf = (content: ArrayBuffer | Uint8Array | string): string =>
  typeof content === 'string' ? content : new TextDecoder().decode(content);

/** Reads an e-mail (RFC 5322, MIME) from its bytes. */
export async function readIncoming(raw: Uint8Array): Promise<Incoming> {
  const mail = await PostalMime.parse(raw, { attachmentEncoding: 'arraybuffer' });
  const status = mail.attachments.find((a) => a.mimeType === 'message/delivery-status');
  const isReport = /^multipart\/report\b/.test(headerOf(mail, 'content-type'));
  const text = mail.text?.trim() ? mail.text : plainOf(mail.html ?? '');
  return {
    id: mail.messageId ?? null,
    from: mail.from?.address?.toLowerCase() ?? null,
    words: ownWords(text).slice(0, MOST_WORDS),
    automatic: isAutomatic(mail),
    attachments: mail.attachments.filter((a) => a !== status).length,
    deliveries: isReport && status ? readDeliveryStatus(textOf(status.content)) : null,
  };
}
