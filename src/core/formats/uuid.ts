/**
 * A UUID of the shape of version 5 (RFC 9562, 5.5) from a hash in hexadecimal, of at least 32 digits: the same hash
 * gives the same.
 */
export function uuidFromHash(hex: string): string {
  const variant = ((parseInt(hex.slice(16, 18), 16) & 0x3f) | 0x80).toString(16);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-${variant}${hex.slice(18, 20)}-${hex.slice(20, 32)}`;
}
