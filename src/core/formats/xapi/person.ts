import type { Agent } from './statement';

/**
 * A person as a statement names them, in one text: `mbox:ida@x.example`, `sha1:…`, `openid:…` or
 * `account:home page|name`. Null for somebody without identifier.
 */
export function personKey(agent: Agent): string | null {
  if (agent.mbox) return `mbox:${agent.mbox.slice('mailto:'.length).toLowerCase()}`;
  if (agent.mbox_sha1sum) return `sha1:${agent.mbox_sha1sum.toLowerCase()}`;
  if (agent.openid) return `openid:${agent.openid}`;
  if (agent.account) return `account:${agent.account.homePage}|${agent.account.name}`;
  return null;
}

/** The part of a person's text by which one may know them: the name of their account, or a plain id. */
const nameIn = (key: string): string =>
  key.startsWith('account:') ? key.slice(key.lastIndexOf('|') + 1) : key;

/**
 * What a source's text of a person says of their id and address, for whoever puts them on record: a finder that knows
 * somebody of these finds them by the text. Both are nothing for a hash or an OpenID, which say neither.
 */
export function idAndAddress(key: string): { readonly id: string | null; readonly email: string | null } {
  if (key.startsWith('mbox:')) return { id: null, email: key.slice('mbox:'.length) };
  if (/^(sha1|openid):/.test(key)) return { id: null, email: null };
  const name = nameIn(key);
  return name.includes('@') ? { id: null, email: name } : { id: name, email: null };
}

export interface KnownPerson {
  readonly id: string;
  readonly email: string | null;
}

/**
 * Finds people by what a source calls them: an address or its SHA-1 (of `mailto:` and the address as on record and in
 * lower case; part two, 2.4.2.3), the name of an account or a plain id that is our own id or address, or an alias
 * that somebody set. An address or id that two people share finds nobody.
 *
 * @param sha1 SHA-1 in hexadecimal, which the caller has at hand
 */
export function personFinder(
  people: readonly KnownPerson[],
  aliases: ReadonlyMap<string, string>,
  sha1: (text: string) => string,
): (key: string) => string | null {
  const names = new Map<string, string | null>();
  const put = (name: string, id: string) =>
    names.set(name, names.has(name) && names.get(name) !== id ? null : id);
  for (const { id, email } of people) {
    put(`id:${id}`, id);
    if (!email) continue;
    put(`mbox:${email.toLowerCase()}`, id);
    for (const form of new Set([email, email.toLowerCase()])) put(`sha1:${sha1(`mailto:${form}`)}`, id);
  }
  return (key) => {
    const alias = aliases.get(key);
    if (alias !== undefined) return alias;
    const found = names.get(key);
    if (found) return found;
    const name = nameIn(key);
    return names.get(`id:${name}`) ?? names.get(`mbox:${name.toLowerCase()}`) ?? null;
  };
}
