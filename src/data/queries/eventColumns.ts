import { eq, or, sql } from 'drizzle-orm';
import { type EventColumns } from '@/core/activity/events';
import { EVENT_KINDS, roleOf, type EventKind } from '@/core/course/kinds';
import { ACTIVITY_KINDS } from '@/core/course/kinds';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { events, isSeen } from '@/data/schema';
import type { CourseModel } from './courseModel';
import { packed, packedInstant, unpack } from '@/data/queries/packed';

/** An event as the derivation needs it. */
export interface DerivableEvent {
  readonly enrolmentId: number;
  readonly at: Instant;
  readonly kind: EventKind;
  readonly activityId: number | null;
  readonly duration: number | null;
}

/** Events one after the other, as many as it says. */
export type EventList = Iterable<DerivableEvent> & { readonly length: number };

export type ActivityColumns = EventColumns & {
  /** Place of the activity in the course, under 0 for none. */
  readonly activity: Int32Array;
};

/** Numbers of the kinds that share a typical dwell: the kind of the activity, or else that of the event. */
const KIND_NUMBERS = new Map<string, number>([...EVENT_KINDS, ...ACTIVITY_KINDS].map((kind, i) => [kind, i]));

/** Events as columns; students are numbered by their place in `ids`. */
export function toColumns(course: CourseModel, all: EventList, ids: readonly number[]): ActivityColumns {
  const numberOf = new Map(ids.map((id, i) => [id, i]));
  const placeOf = new Map(course.activities.map((a, i) => [a.id, i]));
  const kindOf = new Map(course.activities.map((a) => [a.id, KIND_NUMBERS.get(a.kind)!]));
  const count = all.length;
  const columns = {
    count,
    studentCount: ids.length,
    student: new Int32Array(count),
    at: new Float64Array(count),
    kind: new Uint8Array(count),
    login: new Uint8Array(count),
    duration: new Float64Array(count),
    role: new Uint8Array(count),
    activity: new Int32Array(count),
  };
  let i = 0;
  for (const event of all) {
    columns.student[i] = numberOf.get(event.enrolmentId)!;
    columns.at[i] = event.at;
    columns.login[i] = event.kind === 'login' ? 1 : 0;
    columns.kind[i] = kindOf.get(event.activityId ?? -1) ?? KIND_NUMBERS.get(event.kind)!;
    columns.duration[i] = event.duration ?? NaN;
    columns.role[i] = roleOf(event.kind);
    columns.activity[i] = placeOf.get(event.activityId ?? -1) ?? -1;
    i++;
  }
  return columns;
}

/** From which instant on the events of a student are read; of one who is not named, all of them. */
export type Since = ReadonlyMap<number, Instant>;

const FIELDS = [
  packedInstant(events.at),
  events.kind,
  sql`coalesce(${events.activityId}::text, '')`,
  sql`coalesce(${events.durationS}::text, '')`,
];

const numberOrNull = (text: string): number | null => (text === '' ? null : Number(text));

/**
 * The events of some students of a course, whole or from an instant on, in no order that is promised.
 *
 * @param importId an import that is still coming in, whose events count too
 */
export async function readEvents(
  { orm }: Access,
  ids: readonly number[],
  since: Since = new Map(),
  importId?: number,
): Promise<DerivableEvent[]> {
  const from = ids.map((id) => (since.has(id) ? new Date(since.get(id)!).toISOString() : '-infinity'));
  const rows = await orm
    .select({ enrolmentId: events.enrolmentId, all: packed(FIELDS) })
    .from(events)
    .innerJoin(
      sql`unnest(${sql.param([...ids])}::int[], ${sql.param(from)}::timestamptz[]) as wanted(id, since)`,
      sql`wanted.id = ${events.enrolmentId} and ${events.at} >= wanted.since`,
    )
    .where(importId == null ? isSeen(events) : or(isSeen(events), eq(events.importId, importId)))
    .groupBy(events.enrolmentId);
  return rows.flatMap(({ enrolmentId, all }) =>
    unpack(all, FIELDS.length, (value) => eventOf(enrolmentId, value)),
  );
}

const eventOf = (enrolmentId: number, value: (place: number) => string): DerivableEvent => ({
  enrolmentId,
  at: Number(value(0)),
  kind: value(1) as EventKind,
  activityId: numberOrNull(value(2)),
  duration: numberOrNull(value(3)),
});
