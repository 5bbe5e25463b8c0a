import { eq, sql } from 'drizzle-orm';
import { EVENT_KINDS, roleOf, type EventColumns, type EventKind } from '@/core/activity/events';
import { ACTIVITY_KINDS } from '@/core/formats/courseFiles';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { events } from '@/data/schema';
import type { CourseModel } from './courseModel';
import { idsIn } from './idsIn';

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

const COLUMNS = {
  enrolmentId: events.enrolmentId,
  // As a number at once: a hundred thousand dates are slow to make.
  at: sql<number>`extract(epoch from ${events.at}) * 1000`.mapWith(Number),
  kind: events.kind,
  activityId: events.activityId,
  duration: events.durationS,
};

/** The events of a course, or of some of its students, whole or from an instant on. */
export async function readEvents(
  { orm }: Access,
  courseId: number,
  ids: readonly number[] | null,
  since: Since = new Map(),
): Promise<DerivableEvent[]> {
  if (!ids) return orm.select(COLUMNS).from(events).where(eq(events.courseId, courseId));
  const whole = ids.filter((id) => !since.has(id));
  const late = ids.filter((id) => since.has(id));
  const all =
    whole.length > 0 ? await orm.select(COLUMNS).from(events).where(idsIn(events.enrolmentId, whole)) : [];
  if (late.length === 0) return all;
  const from = late.map((id) => new Date(since.get(id)!).toISOString());
  const ends = await orm
    .select(COLUMNS)
    .from(events)
    .innerJoin(
      sql`unnest(${sql.param(late)}::int[], ${sql.param(from)}::timestamptz[]) as late(id, since)`,
      sql`late.id = ${events.enrolmentId} and ${events.at} >= late.since`,
    );
  return [...all, ...ends];
}
