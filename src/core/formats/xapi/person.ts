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
    const name = key.startsWith('account:') ? key.slice(key.lastIndexOf('|') + 1) : key;
    return names.get(`id:${name}`) ?? names.get(`mbox:${name.toLowerCase()}`) ?? null;
  };
}
