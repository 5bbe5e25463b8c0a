/** A kind of e-mail that costs a careless reader more than its size is worth. */
export interface HostileMail {
  readonly kind: string;
  /** The whole mail, of about so many bytes. */
  readonly of: (bytes: number) => Uint8Array;
}

const head = (type: string, more = '') =>
  `From: Bo Li <bo@students.example>\r\nTo: a@x.example\r\nMessage-ID: <hostile@x>\r\n${more}MIME-Version: 1.0\r\nContent-Type: ${type}\r\n\r\n`;
const encoder = new TextEncoder();

/** A piece repeated to about so many bytes. */
const filled = (piece: string, bytes: number) => piece.repeat(Math.max(1, Math.ceil(bytes / piece.length)));
const body = (type: string, piece: string, last = '', more = '') => ({
  of: (bytes: number) => encoder.encode(`${head(type, more)}${filled(piece, bytes)}${last}\r\n`),
});
const html = (piece: string, last = '') => body('text/html', piece, last);
const plain = (piece: string, last = '') => body('text/plain', piece, last);
/** A field of the head that is as long as the mail. */
const field = (name: string, piece: string, last = '') => ({
  of: (bytes: number) =>
    encoder.encode(`${name}: ${filled(piece, bytes)}${last}\r\n${head('text/plain')}Hello\r\n`),
});
const parts = (type: string, part: string) => ({
  of: (bytes: number) =>
    encoder.encode(`${head(`multipart/${type}; boundary=b`)}${filled(`--b\r\n${part}\r\n`, bytes)}--b--\r\n`),
});
const nested = (bytes: number) => {
  const levels = Math.max(1, Math.floor(bytes / 90));
  let text = head('multipart/mixed; boundary=b0');
  for (let i = 0; i < levels; i++)
    text += `--b${i}\r\nContent-Type: multipart/mixed; boundary=b${i + 1}\r\n\r\n`;
  return encoder.encode(`${text}Hello\r\n`);
};

/** Thirty kinds: unclosed and nested marks, quotes, fields and parts without an end, encodings that lie. */
export const HOSTILE_MAIL: readonly HostileMail[] = [
  { kind: 'unclosed style', ...html('<style ') },
  { kind: 'unclosed style bodies', ...html('<style>a') },
  { kind: 'unclosed script', ...html('<script ') },
  { kind: 'less-than signs', ...html('<') },
  { kind: 'open block quotes', ...html('<blockquote>') },
  { kind: 'nested divs', ...html('<div>') },
  { kind: 'nested tables', ...html('<table><tr><td>') },
  { kind: 'nested lists', ...html('<ul><li>') },
  { kind: 'comments without an end', ...html('<!--') },
  { kind: 'attributes without an end', of: html('<a b="').of },
  {
    kind: 'one tag of many attributes',
    of: (n) => encoder.encode(`${head('text/html')}<p ${filled('a=b ', n)}>x`),
  },
  { kind: 'entities', ...html('&amp;&lt;&#x41;&nosuch;') },
  { kind: 'line breaks', ...html('<br>') },
  { kind: 'blanks in HTML', ...html('   \t  ', 'x') },
  { kind: 'closing tags', ...html('</p></div>') },
  { kind: 'links', ...html('<a href="https://x.example">x</a>') },
  { kind: 'quoted lines', ...plain('>\r\n') },
  { kind: 'quoted signs on one line', ...plain('>', 'x') },
  { kind: 'empty lines', ...plain('\r\n', 'x') },
  { kind: 'blanks on one line', ...plain(' ', 'x') },
  { kind: 'introductions', ...plain('On Wed someone wrote\r\n') },
  { kind: 'introductions on one line', ...plain('On wrote ') },
  { kind: 'dashes', ...plain('-') },
  { kind: 'signatures', ...plain('-- \r\n') },
  { kind: 'one long word', ...plain('x') },
  { kind: 'flowed text', ...body('text/plain; format=flowed; delsp=yes', '> a \r\n') },
  { kind: 'addresses', ...field('From', 'a <a@x.example>, ') },
  { kind: 'nested groups', ...field('From', 'a:') },
  { kind: 'open comments', ...field('From', '(', 'a@x.example') },
  { kind: 'encoded words', ...field('Subject', '=?utf-8?Q?=41?= ') },
  { kind: 'parameters', ...field('Content-Type', 'text/plain; a*0=b; ') },
  { kind: 'empty parts', ...parts('mixed', '') },
  { kind: 'alternatives', ...parts('alternative', 'Content-Type: text/html\r\n\r\n<p>x') },
  { kind: 'nested parts', of: nested },
  {
    kind: 'messages within messages',
    of: (n) =>
      encoder.encode(`${head('message/rfc822')}${filled('Content-Type: message/rfc822\r\n\r\n', n)}x\r\n`),
  },
  { kind: 'base64 that is none', ...body('text/html', '<<<<', '', 'Content-Transfer-Encoding: base64\r\n') },
  {
    kind: 'quoted-printable that is none',
    ...body('text/plain', '=', '', 'Content-Transfer-Encoding: quoted-printable\r\n'),
  },
  { kind: 'NUL bytes', ...plain('\0') },
];
