/** Lower-case base32 (RFC 4648, section 6, without padding): what survives whoever changes the case of an address. */
const ALPHABET = 'abcdefghijklmnopqrstuvwxyz234567';

export function base32(bytes: Uint8Array): string {
  let text = '';
  let bits = 0;
  let held = 0;
  for (const byte of bytes) {
    held = (held << 8) | byte;
    bits += 8;
    while (bits >= 5) {
      bits -= 5;
      text += ALPHABET[(held >>> bits) & 31];
    }
    held &= (1 << bits) - 1;
  }
  return bits > 0 ? text + ALPHABET[(held << (5 - bits)) & 31] : text;
}

/** The bytes of such a text, in whatever case; null if it is none, or has bits to spare that are not zero. */
export function fromBase32(text: string): Uint8Array | null {
  const bytes: number[] = [];
  let bits = 0;
  let held = 0;
  for (const char of text.toLowerCase()) {
    const value = ALPHABET.indexOf(char);
    if (value < 0) return null;
    held = (held << 5) | value;
    bits += 5;
    if (bits >= 8) {
      bits -= 8;
      bytes.push((held >>> bits) & 255);
    }
    held &= (1 << bits) - 1;
  }
  return bits < 5 && held === 0 ? Uint8Array.from(bytes) : null;
}

/**
 * What comes to an address of ours: an answer of a student to a copy, word that it did not arrive, the wish of a person to
 * get no more e-mail, or the report of a system about a course.
 */
export const TOKEN_USES = ['answer', 'bounce', 'stop', 'report'] as const;
export type TokenUse = (typeof TOKEN_USES)[number];

/** Signs some bytes: the same bytes and use always give the same. */
export type Sign = (use: TokenUse, payload: Uint8Array) => Uint8Array;

/** Bytes of a signature that are kept: eighty bits, which nobody guesses over SMTP. */
const SIGNED = 10;

const payloadOf = (id: number): Uint8Array => {
  const bytes = new Uint8Array(4);
  new DataView(bytes.buffer).setUint32(0, id);
  return bytes;
};

/**
 * The local part of the address to which a copy is answered, or comes back: "answer.aaaa…". At most 64 octets (RFC 5321,
 * 4.5.3.1.1); it says which copy, person or report, and is signed, so that nobody makes one.
 */
export function localPart(use: TokenUse, id: number, sign: Sign): string {
  const payload = payloadOf(id);
  const signed = sign(use, payload).subarray(0, SIGNED);
  return `${use}.${base32(Uint8Array.from([...payload, ...signed]))}`;
}

/** Which copy, person or report a local part is of, and for what; null for what we did not sign. */
export function readLocalPart(
  local: string,
  sign: Sign,
): { readonly use: TokenUse; readonly id: number } | null {
  const [head, token, more] = local.split('.');
  const use = TOKEN_USES.find((u) => u === head?.toLowerCase());
  const bytes = token == null || more != null ? null : fromBase32(token);
  if (!use || bytes?.length !== 4 + SIGNED) return null;
  const payload = bytes.subarray(0, 4);
  const signed = sign(use, payload);
  let differing = 0;
  // All of it is compared, however early it differs.
  for (let i = 0; i < SIGNED; i++) differing |= bytes[4 + i]! ^ signed[i]!;
  if (differing !== 0) return null;
  return { use, id: new DataView(bytes.buffer, bytes.byteOffset).getUint32(0) };
}
