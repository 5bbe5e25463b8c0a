/** Bytes of the head of an e-mail that are taken; mail programs and servers write a few thousand. */
export const MOST_HEAD = 64 * 1024;
/** Characters of the field that names who wrote it. */
const MOST_FROM = 2000;

/** How many addresses a list holds (RFC 5322, section 3.4): what commas divide, outside of quotes, comments and brackets. */
function addressesIn(list: string): number {
  let found = 0;
  let depth = 0;
  let quoted = false;
  let some = false;
  for (let i = 0; i < list.length; i++) {
    const char = list[i]!;
    if (char === '\\') i++;
    else if (char === '"' && depth === 0) quoted = !quoted;
    else if (quoted) some = true;
    else if (char === '(' || char === '<') depth++;
    else if (char === ')' || char === '>') depth = Math.max(0, depth - 1);
    else if ((char === ',' || char === ';') && depth === 0) {
      if (some) found++;
      some = false;
    }
    if (!/[\s,;]/.test(char)) some = true;
  }
  return found + Number(some);
}

/**
 * What makes an e-mail impossible to take, whatever follows in it: seen from its head, in the words of an answer of SMTP
 * (RFC 3463 codes). Null if nothing does.
 *
 * @param head its first bytes as text, up to the empty line; `isWhole` says whether that line was there
 */
export function faultOfHead(head: string, isWhole: boolean): string | null {
  if (!isWhole) return `5.6.0 The head of the message is longer than ${MOST_HEAD / 1024} KB`;
  const lines = head.replaceAll('\r\n', '\n').split('\n');
  const from: string[] = [];
  let inFrom = false;
  for (const line of lines) {
    if (/^[ \t]/.test(line)) {
      if (inFrom) from[from.length - 1] += line;
      continue;
    }
    inFrom = /^from[ \t]*:/i.test(line);
    if (inFrom) from.push(line.slice(line.indexOf(':') + 1));
  }
  // A report of what was not delivered may have none (RFC 5321, 4.5.5, is about its envelope; some leave it out).
  if (from.length > 1) return '5.6.0 The message has more than one From field';
  const [field] = from;
  if (field == null) return null;
  if (field.length > MOST_FROM) return '5.6.0 The From field is too long';
  if (addressesIn(field) > 1) return '5.6.0 The message is from more than one address; send it from one';
  return null;
}
