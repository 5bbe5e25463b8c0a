const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
/** No sentence, and none of the characters that RFC 3987, 2.2 leaves out. */
const IRI = /^[a-z][a-z0-9+.-]*:[^\s<>"{}|\\^`]+$/i;
/** In bytes of UTF-8: what is looked up by an index must fit into one of its pages (PostgreSQL: 2,704 bytes). */
const LONGEST_IRI = 2000;

/** Bytes of a text in UTF-8. */
export const utf8Length = (text: string): number => new TextEncoder().encode(text).length;

/** Whether a text is a UUID (RFC 9562, 4), of whatever version and variant; nothing is told apart by them. */
export const isUuid = (text: string): boolean => UUID.test(text);

/** Whether a text is an IRI with its scheme (RFC 3987, 2.2), of 2,000 bytes at most: http, urn, tag, mailto or any other. */
export const isIri = (text: string): boolean =>
  text.length <= LONGEST_IRI && utf8Length(text) <= LONGEST_IRI && IRI.test(text);
