/** Characters of one field that are looked at. */
const MOST_FIELD = 4000;

/** A field without its name, folds, comments (RFC 5322, section 3.2.2) and quotes. */
function plainValue(line: string): string {
  const value = line.slice(line.indexOf(':') + 1, MOST_FIELD);
  let plain = '';
  let depth = 0;
  for (const char of value) {
    if (char === '(') depth++;
    else if (char === ')') depth = Math.max(0, depth - 1);
    else if (depth === 0 && char !== '"') plain += /\s/.test(char) ? ' ' : char;
  }
  return plain.toLowerCase();
}

/** A domain, or one above it or below it: the relaxed alignment of RFC 7489, section 3.1, without the list of public suffixes. */
const aligned = (a: string, b: string): boolean =>
  a === b || (a.includes('.') && b.endsWith(`.${a}`)) || (b.includes('.') && a.endsWith(`.${b}`));

/**
 * Whether a server that we trust vouches for the sender of an e-mail: a field Authentication-Results (RFC 8601) under its
 * name says that DMARC passed, or that a DKIM signature of the sender's domain did. A server takes away fields in its
 * name that came from outside (RFC 8601, section 5), so what is left was written by it.
 *
 * @param from the address in From
 * @param lines the fields, with their name, as they stand
 * @param vouchers the names (authserv-id) of the servers whose word counts
 */
export function isVouchedFor(
  from: string | null,
  lines: readonly string[],
  vouchers: readonly string[],
): boolean {
  const domain = from?.split('@')[1]?.toLowerCase();
  if (!domain) return false;
  return lines.some((line) => {
    const [server = '', ...results] = plainValue(line).split(';');
    const name = server.trim().split(' ')[0];
    if (!vouchers.some((v) => v.toLowerCase() === name)) return false;
    return results.some((result) => {
      const words = result.trim().split(/ +/);
      const valueOf = (key: string) => words.find((w) => w.startsWith(`${key}=`))?.slice(key.length + 1);
      const signer = valueOf('header.d') ?? valueOf('header.i')?.split('@').pop();
      const sender = valueOf('header.from');
      return (
        (words[0] === 'dmarc=pass' && (sender == null || aligned(sender, domain))) ||
        (words[0] === 'dkim=pass' && signer != null && aligned(signer, domain))
      );
    });
  });
}
