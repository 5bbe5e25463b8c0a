import { no, ok, type Result } from '../../result';
import type { Instant, Seconds } from '../../units';
import { EVENT_KINDS, type EventKind } from '../../course/kinds';
import type { ActivityKind } from '../../course/kinds';
import { parseInstant } from '../../calendar/instant';
import { answeredBy, type AnsweredItem } from './answered';
import { LONGEST_SITTING, parseDuration } from './duration';
import { personKey } from './person';
import { IDENTIFIERS, type Statement } from './statement';
import { ANSWERED, meaningOf, VOIDED } from './verbs';

/** Where we write the event's own id, so that out and in again is the same event. */
export const EVENT_ID = 'https://ready-lantern.example/xapi/event-id';
/** Where we write the event's kind: hand-ins and grades go another way out, and are not made twice on the way in. */
export const EVENT_KIND = 'https://ready-lantern.example/xapi/event-kind';

/** How the id of an event begins that a statement tells of; the id of the statement follows. */
export const OF_STATEMENT = 'xapi:';

/** What a statement says, in our records. */
export interface StatementRecord {
  /** Made of the statement's id. */
  readonly eventId: string;
  /** The id of the event in our own export, if the statement names it: the event may be on record already. */
  readonly ownId: string | null;
  /** As the source names the person; see `personKey`. */
  readonly person: string;
  readonly name: string | null;
  readonly at: Instant;
  readonly kind: EventKind;
  /** Our activity, if it is one of the course's. */
  readonly activity: string | null;
  readonly duration: Seconds | null;
  /** Something was handed in by it; points if it states a score. */
  readonly handedIn: { readonly points: number | null } | null;
  /** An item of the activity was answered by it. */
  readonly answered: AnsweredItem | null;
}

export interface CourseActivity {
  readonly id: string;
  readonly kind: ActivityKind;
  readonly points: number | null;
}

/** The activity that an IRI means: its own id is ours, or its last part is. */
export function activityFinder(
  activities: readonly CourseActivity[],
): (iri: string) => CourseActivity | null {
  const byId = new Map(activities.map((a) => [a.id, a]));
  return (iri) => {
    const own = byId.get(iri);
    if (own) return own;
    const last = iri.split(/[/#:]/).findLast((part) => part !== '') ?? '';
    try {
      return byId.get(decodeURIComponent(last)) ?? null;
    } catch {
      return null;
    }
  };
}

/** Ids of activities named under a property of `contextActivities`, which may be one or several. */
function contextIds(statement: Statement, under: 'parent' | 'grouping'): string[] {
  const found: unknown = statement.context?.contextActivities?.[under];
  return (Array.isArray(found) ? found : [found]).flatMap((a: unknown) =>
    typeof a === 'object' && a !== null && 'id' in a && typeof a.id === 'string' ? [a.id] : [],
  );
}

/** Points of a stated score: scaled to the maximum where that is known, else raw out of its own maximum, else raw. */
function pointsOf(statement: Statement, maximum: number | null): number | null {
  const score = statement.result?.score;
  if (!score || maximum == null) return null;
  let share: number | null = null;
  if (score.scaled != null) share = score.scaled;
  else if (score.raw != null && score.max != null)
    share = (score.raw - (score.min ?? 0)) / (score.max - (score.min ?? 0));
  const points = share == null ? score.raw : share * maximum;
  if (points == null) return null;
  // Rounded away from binary dust: 0.7 of 10 is 7.
  return Math.round(Math.min(Math.max(points, 0), maximum) * 1e6) / 1e6;
}

/** The statement that a voiding statement takes back; null for any other statement. */
export const voidedBy = (statement: Statement): string | null =>
  statement.verb.id === VOIDED && statement.object.objectType === 'StatementRef'
    ? (statement.object.id ?? '').toLowerCase()
    : null;

/**
 * What a checked statement says. One about somebody without identifier (a group of members, say) has no record.
 *
 * @param received the instant for a statement that states none (part two, 2.4.7: it was stored then)
 */
export function recordOf(
  statement: Statement & { readonly id: string },
  find: (iri: string) => CourseActivity | null,
  received: Instant,
): Result<StatementRecord> {
  const person = personKey(statement.actor);
  if (!person || statement.actor.objectType === 'Group')
    return no(`actor is not one person with one of ${IDENTIFIERS.join(', ')}`);
  const at = statement.timestamp == null ? ok(received) : parseInstant(statement.timestamp);
  if (!at.ok) return no(`timestamp: ${at.reason}`);
  const onActivity = (statement.object.objectType ?? 'Activity') === 'Activity';
  const names = [
    ...(onActivity && statement.object.id ? [statement.object.id] : []),
    ...contextIds(statement, 'parent'),
  ];
  const activity = names.map(find).find((a) => a != null) ?? null;
  const meaning = meaningOf(statement.verb.id, activity?.kind ?? null);
  const duration = statement.result?.duration == null ? null : parseDuration(statement.result.duration);
  const stated = duration?.ok && duration.value <= LONGEST_SITTING ? duration.value : null;
  const own = statement.context?.extensions?.[EVENT_ID];
  const ownKind = EVENT_KINDS.find((k) => k === statement.context?.extensions?.[EVENT_KIND]);
  // What is done on a part of a work (a question of a quiz) does not hand the work in.
  const whole = activity != null && statement.object.id != null && find(statement.object.id) === activity;
  return ok({
    eventId: `${OF_STATEMENT}${statement.id.toLowerCase()}`,
    ownId: typeof own === 'string' && own !== '' && own.length <= 200 ? own : null,
    person,
    name: statement.actor.name?.slice(0, 200) ?? null,
    at: at.value,
    kind: ownKind ?? meaning.kind,
    activity: activity?.id ?? null,
    duration: stated,
    handedIn: meaning.handsIn && whole && !ownKind ? { points: pointsOf(statement, activity.points) } : null,
    answered:
      statement.verb.id === ANSWERED && activity != null && onActivity && !ownKind
        ? answeredBy(statement, stated)
        : null,
  });
}
