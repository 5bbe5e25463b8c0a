import { UseCaseError } from '@/server/base/errors';

/** Bytes that a request may bring, by the door it comes to. */
export const BODY_LIMITS = {
  /** A request whose key stands in its header. */
  statements: 10 * 1024 * 1024,
  /** A form that carries its key inside: it is read before anybody knows whose it is. */
  keyedForm: 64 * 1024,
  signIn: 16 * 1024,
  /** A message to many, each with a plan. */
  message: 10 * 1024 * 1024,
} as const;

/** Bytes of a body that is too large which are still taken from the line: cut off at once, a client would not hear why. */
const DISCARDED = 64 * 1024 * 1024;

/** Reads on without keeping anything, for as long as it is worth it. */
async function discard(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<void> {
  try {
    for (let left = DISCARDED; left > 0;) {
      const part = await reader.read();
      if (part.done) return;
      left -= part.value.length;
    }
    await reader.cancel();
  } catch {
    // The client has gone; so has its body.
  }
}

const inWords = (bytes: number): string =>
  bytes < 1024 * 1024 ? `${bytes / 1024} KB` : `${bytes / 1024 / 1024} MB`;

/**
 * The body of a request, counted as it arrives: whatever its headers say, no more than the limit is ever held. Throws
 * `too large`, and reads no further.
 */
export async function readBody(request: Request, most: number): Promise<Uint8Array<ArrayBuffer>> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const part = await reader?.read().catch(() => {
      throw new UseCaseError('invalid', 'The request was cut off; send it again.');
    });
    if (!part || part.done) break;
    size += part.value.length;
    if (size > most) {
      void discard(reader!);
      throw new UseCaseError('too large', `The request is larger than ${inWords(most)}; send less at once.`);
    }
    chunks.push(part.value);
  }
  const body = new Uint8Array(size);
  let at = 0;
  for (const chunk of chunks) {
    body.set(chunk, at);
    at += chunk.length;
  }
  return body;
}
