import { and, eq, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { type Planning, type Place } from './kind';
import { maybeText, maybeNumber, textField } from './fields';
import { sort } from '../sort';
import { type ReadOf } from '../readFiles';
import { turn } from '@/data/turn';
import { seenEvents } from '@/data/schema';
import { type FileIds } from '@/data/queries/fileIds';
import { eventRecordOf, eventRows } from '@/data/queries/eventRows';
import { type DerivableEvent } from '@/data/queries/eventColumns';
import { type CourseModel } from '@/data/queries/courseModel';
import { hasEvents } from '@/data/queries/classRecord';
import { type Access, copyLine } from '@/data/database';
import { DAY_MS } from '@/core/units';
import type { Changes, Placed } from '@/core/formats/classify';
import { type EventRecord } from '@/core/course/records';
import { EVENT_KINDS } from '@/core/course/kinds';

const EVENT_COLUMNS = [
  'course_id',
  'event_id',
  'enrolment_id',
  'at',
  'kind',
  'activity_id',
  'duration_s',
  'import_id',
];
/** Ids looked up a statement: few enough to be looked up in the index one by one. */
const LOOK_UP = 5000;

/** The events stored under any of the ids. */
export async function storedEvents(
  access: Access,
  course: CourseModel,
  ids: readonly string[],
): Promise<Map<string, EventRecord>> {
  const found = new Map<string, EventRecord>();
  if (!(await hasEvents(access, course.row.id))) return found;
  const recordOf = eventRecordOf(course);
  for (let i = 0; i < ids.length; i += LOOK_UP) {
    const rows = await eventRows(access).where(
      and(
        eq(seenEvents.courseId, course.row.id),
        sql`${seenEvents.eventId} = any(${sql.param(ids.slice(i, i + LOOK_UP))}::text[])`,
      ),
    );
    for (const row of rows) found.set(row.id, recordOf(row));
    await turn();
  }
  return found;
}

/** Decides what a file of events adds: one that is known with other content is refused, never changed. */
export async function planEvents(
  file: ReadOf<'events'>,
  { access, course, students, maxima: activities, now, waits }: Planning,
): Promise<Changes<EventRecord>> {
  const existing = await storedEvents(
    access,
    course,
    file.rows.map((r) => r.value.id),
  );
  const latest = now + DAY_MS;
  return sort(file.rows, file.rejected, {
    keyOf: (e) => e.id,
    keyField: 'event_id',
    existing,
    same: (a, b) =>
      a.at === b.at &&
      a.student === b.student &&
      a.kind === b.kind &&
      a.activity === b.activity &&
      a.duration === b.duration,
    waitsAlready: waits('events'),
    waits: (e) => !students.has(e.student),
    objection: (e) => {
      if (e.activity != null && !activities.has(e.activity)) {
        return { field: 'activity_id', reason: `there is no activity “${e.activity}”` };
      }
      return e.at > latest
        ? { field: 'at', reason: 'lies in the future; check the clock of the source' }
        : null;
    },
    onDifference: 'reject',
  });
}

/** An event of a file, as the derivation needs it. */
export const derivableEvent = (ids: FileIds, e: EventRecord): DerivableEvent => ({
  enrolmentId: ids.enrolmentOf.get(e.student)!,
  at: e.at,
  kind: e.kind,
  activityId: e.activity == null ? null : ids.activityOf.get(e.activity)!,
  duration: e.duration,
});

/** Appends events of a file; they are as new as the plan says, or the database refuses all of them. */
export async function copyEvents(
  access: Access,
  { course, ids }: Place,
  rows: readonly Placed<EventRecord>[],
  importId: number | null,
): Promise<void> {
  let csv = '';
  for (const { value } of rows) {
    const e = derivableEvent(ids, value);
    const at = new Date(e.at);
    csv += copyLine([course.row.id, value.id, e.enrolmentId, at, e.kind, e.activityId, e.duration, importId]);
  }
  await access.copy('events', EVENT_COLUMNS, csv);
}

/** An event as it is kept while it waits. Those that are in carry the number of their import, and go by it. */
export const eventSchema = yup.object({
  id: textField(),
  student: textField(),
  at: yup.number().required(),
  kind: yup
    .string()
    .oneOf([...EVENT_KINDS])
    .required(),
  activity: maybeText(),
  duration: maybeNumber(),
}) satisfies yup.ISchema<EventRecord>;
