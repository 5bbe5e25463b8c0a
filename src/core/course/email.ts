import { no, ok, type Result } from '../result';

/** An e-mail address by its shape (RFC 5321 limits the length to 254); whether it exists shows when something is sent. */
export function parseEmail(text: string): Result<string> {
  return text.length <= 254 && /^[^\s@<>,;"]+@[^\s@<>,;"]+$/.test(text)
    ? ok(text)
    : no('is not an e-mail address');
}
