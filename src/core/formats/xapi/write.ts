import type { EventRecord } from '../../course/records';
import { formatInstant } from '../../calendar/instant';
import { formatDuration } from './duration';
import { EVENT_ID, EVENT_KIND } from './records';
import { VERB_OF } from './verbs';

export interface StatementSource {
  /** Address under which the course's activities stand. */
  readonly base: string;
  readonly names: ReadonlyMap<string, string>;
  readonly titles: ReadonlyMap<string, string>;
  /** A UUID from a text: the same text gives the same. */
  readonly uuidOf: (text: string) => string;
}

/**
 * An event as an xAPI 1.0.3 statement. Our own event id stands in an extension, so that it comes back as the same
 * event; the person is named by an account with our id.
 */
export function eventStatement(event: EventRecord, source: StatementSource): Record<string, unknown> {
  const { base, names, titles, uuidOf } = source;
  const title = event.activity == null ? 'Course' : titles.get(event.activity);
  return {
    id: uuidOf(`${base} ${event.id}`),
    actor: {
      objectType: 'Agent',
      name: names.get(event.student) ?? event.student,
      account: { homePage: base, name: event.student },
    },
    verb: { id: VERB_OF[event.kind] },
    object: {
      objectType: 'Activity',
      id: event.activity == null ? base : `${base}/works/${encodeURIComponent(event.activity)}`,
      ...(title ? { definition: { name: { en: title } } } : {}),
    },
    ...(event.duration == null ? {} : { result: { duration: formatDuration(event.duration) } }),
    context: { extensions: { [EVENT_ID]: event.id, [EVENT_KIND]: event.kind } },
    timestamp: formatInstant(event.at),
    version: '1.0.3',
  };
}
