import { no, ok, type Result } from '../result';

/** One part of a multipart body: its headers, by names in lower case, and its bytes. */
export interface Part {
  readonly headers: ReadonlyMap<string, string>;
  readonly content: Uint8Array;
}

/** Parts that a body may have: more is nobody's message. */
const MOST_PARTS = 2000;
/** Bytes that the headers of one part may have. */
const MOST_HEADERS = 16 * 1024;

/** The boundary that a content type of `multipart/…` names (RFC 2046, 5.1.1); null if it names none that may be one. */
export function boundaryOf(contentType: string): string | null {
  const match = /;\s*boundary=(?:"([^"]*)"|([^\s;,"]+))/i.exec(contentType);
  const boundary = match?.[1] ?? match?.[2] ?? '';
  return /^[\w'()+,./:=? -]{0,69}[\w'()+,./:=?-]$/.test(boundary) ? boundary : null;
}

const latin = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
};

const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (char) => char.charCodeAt(0));

/** Where a run of bytes stands next in another; -1 if nowhere. */
function find(all: Uint8Array, wanted: Uint8Array, from: number): number {
  const [first] = wanted;
  for (let at = all.indexOf(first!, from); at >= 0; at = all.indexOf(first!, at + 1)) {
    let i = 1;
    while (i < wanted.length && all[at + i] === wanted[i]) i++;
    if (i === wanted.length) return at;
  }
  return -1;
}

/**
 * Cuts a multipart body into its parts (RFC 2046, 5.1.1): what stands before the first boundary and after the last is
 * left out; bytes are taken as they are. Lines end with CRLF, or all with LF. Refused is a body that never ends.
 */
export function readMultipart(body: Uint8Array, boundary: string): Result<readonly Part[]> {
  const mark = bytesOf(`--${boundary}`);
  const parts: Part[] = [];
  let at = find(body, mark, 0);
  if (at < 0 || (at > 0 && body[at - 1] !== 10)) return no('does not begin with its boundary');
  for (;;) {
    at += mark.length;
    if (body[at] === 45 && body[at + 1] === 45) return ok(parts);
    const feed = body.indexOf(10, at);
    if (feed < 0 || latin(body.subarray(at, feed)).trim() !== '') return no('is cut off at a boundary');
    const next = boundaryAfter(body, mark, feed);
    if (next < 0) return no('is cut off before its last boundary');
    const part = partOf(body.subarray(feed + 1, next));
    if (!part.ok) return part;
    parts.push(part.value);
    if (parts.length > MOST_PARTS) return no(`has more than ${MOST_PARTS} parts`);
    at = body[next] === 13 ? next + 2 : next + 1;
  }
}

/** Where the line break stands that belongs to the next boundary. */
function boundaryAfter(body: Uint8Array, mark: Uint8Array, from: number): number {
  for (let at = find(body, mark, from); at >= 0; at = find(body, mark, at + 1)) {
    if (body[at - 1] !== 10) continue;
    return body[at - 2] === 13 && at - 2 > from ? at - 2 : at - 1;
  }
  return -1;
}

function partOf(bytes: Uint8Array): Result<Part> {
  const headers = new Map<string, string>();
  let at = 0;
  for (;;) {
    const feed = bytes.indexOf(10, at);
    if (feed < 0 || feed > MOST_HEADERS) return no('has a part without an end of its headers');
    const line = latin(bytes.subarray(at, feed)).replace(/\r$/, '');
    at = feed + 1;
    if (line === '') return ok({ headers, content: bytes.subarray(at) });
    const colon = line.indexOf(':');
    if (colon < 1) return no('has a part with a line that is no header');
    headers.set(line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim());
  }
}

/** Puts parts together to a body that `readMultipart` cuts the same. The boundary must stand in none of them. */
export function writeMultipart(parts: readonly Part[], boundary: string): Uint8Array {
  const pieces = parts.flatMap(({ headers, content }) => [
    bytesOf(`--${boundary}\r\n${[...headers].map(([name, value]) => `${name}: ${value}\r\n`).join('')}\r\n`),
    content,
    bytesOf('\r\n'),
  ]);
  pieces.push(bytesOf(`--${boundary}--\r\n`));
  const body = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    body.set(piece, at);
    at += piece.length;
  }
  return body;
}
