import { createHash } from 'node:crypto';

/** SHA-256 in hexadecimal: enough for a secret of random bytes, which nothing can be guessed from. */
export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');
