import { holdsBroken } from '@/core/formats/brokenText';
import { parseJson } from '@/core/formats/json';
import { isIri, isUuid } from '@/core/formats/xapi/names';
import { personKey } from '@/core/formats/xapi/person';
import { readAgent, type Agent } from '@/core/formats/xapi/statement';
import { parseTimestamp } from '@/core/formats/xapi/timestamp';
import type { Instant } from '@/core/units';
import { invalid } from '../base/errors';

/** Longest id of a document, in characters. */
const LONGEST_ID = 1000;

/** Refuses parameters that are none of those named, given twice, or no text (part three, 1.3 and 2). */
export function onlyThese(query: URLSearchParams, names: readonly string[]): void {
  const odd = [...query.keys()].find((key) => !names.includes(key));
  if (odd !== undefined) throw invalid(`There is no parameter “${odd.slice(0, 40)}” here.`);
  const twice = [...query.keys()].find((key) => query.getAll(key).length > 1);
  if (twice) throw invalid(`${twice} is given twice.`);
  if (holdsBroken([...query])) throw invalid('A parameter is no text.');
}

const required = (query: URLSearchParams, name: string): string => {
  const value = query.get(name);
  if (value == null || value === '') throw invalid(`${name} is missing.`);
  return value;
};

/** The activity that a request is about. */
export function activityIn(query: URLSearchParams): string {
  const value = required(query, 'activityId');
  if (!isIri(value)) throw invalid('activityId is not an IRI.');
  return value;
}

/** The agent that a request is about, or a group with an identifier, as the JSON of a parameter. */
export function agentIn(text: string): Agent & { readonly key: string } {
  const json = parseJson(text);
  const read = json.ok ? readAgent(json.value) : json;
  const key = read.ok ? personKey(read.value) : null;
  if (!read.ok || key == null)
    throw invalid(
      `agent is not an agent with one identifier, as JSON${read.ok || !json.ok ? '' : `: ${read.reason}`}.`,
    );
  return { ...read.value, key };
}

export const agentOf = (query: URLSearchParams) => agentIn(required(query, 'agent'));

/** The registration that a request is about; empty if none. */
export function registrationIn(query: URLSearchParams): string {
  const value = query.get('registration');
  if (value == null) return '';
  if (!isUuid(value)) throw invalid('registration is not a UUID.');
  return value.toLowerCase();
}

/** The instant after which something was changed; null if none is given. */
export function sinceIn(query: URLSearchParams): Instant | null {
  const value = query.get('since');
  if (value == null) return null;
  const read = parseTimestamp(value);
  if (!read.ok) throw invalid(`since: ${read.reason}.`);
  return read.value;
}

/** The id of a document; null if none is given. */
export function documentIdIn(query: URLSearchParams, name: string): string | null {
  const value = query.get(name);
  if (value == null) return null;
  if (value === '') throw invalid(`${name} is empty.`);
  if (value.length > LONGEST_ID) throw invalid(`${name} is longer than ${LONGEST_ID} characters.`);
  return value;
}
