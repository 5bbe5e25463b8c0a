import { eq } from 'drizzle-orm';
import type { EventRecord } from '@/core/course/records';
import type { Access } from '@/data/database';
import { enrolments, persons, seenEvents } from '@/data/schema';
import type { CourseModel } from './courseModel';

/** Stored events with what the files call their student; which ones, and in what order, is for the caller to say. */
export const eventRows = ({ orm }: Access) =>
  orm
    .select({
      id: seenEvents.eventId,
      student: persons.externalId,
      at: seenEvents.at,
      kind: seenEvents.kind,
      activityId: seenEvents.activityId,
      duration: seenEvents.durationS,
    })
    .from(seenEvents)
    .innerJoin(enrolments, eq(enrolments.id, seenEvents.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId));

type EventRow = Awaited<ReturnType<typeof eventRows>>[number];

/** Makes stored events of a course to what the files write. */
export function eventRecordOf(course: CourseModel): (row: EventRow) => EventRecord {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  return ({ activityId, at, ...row }) => ({
    ...row,
    at: at.getTime(),
    activity: activityId == null ? null : (activityOf.get(activityId) ?? null),
  });
}
