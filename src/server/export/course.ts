import { asc, eq } from 'drizzle-orm';
import type { EventRecord, GradebookRecord, RecordOf } from '@/core/course/records';
import type { WholeCourse } from '@/core/formats/oneroster/write';
import type { FileRecords } from '@/core/formats/writeCourseFiles';
import type { Access } from '@/data/database';
import { courseStaff, seenEvents, units, user } from '@/data/schema';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
import { ledgerKinds } from '../intake/kinds/ledgers';
import { LEDGER_KINDS, type LedgerKind } from '@/core/course/records';
import { eventRecordOf, eventRows } from '@/data/queries/eventRows';
import { activitiesKind } from '../intake/kinds/activities';
import { gradebookKind } from '../intake/kinds/gradebook';
import { itemsKind } from '../intake/kinds/items';
import { outcomesKind } from '../intake/kinds/outcomes';
import { rosterKind } from '../intake/kinds/roster';
import { hiddenContacts } from '@/data/queries/shownEmail';

export type CourseRecords = Omit<FileRecords, 'events'> & {
  readonly whole: WholeCourse;
  readonly zone: string;
};

/** Everything that describes a course and stands in its gradebook, as records; events are read apart. */
export async function courseRecords(access: Access, courseId: number): Promise<CourseRecords> {
  const course = await loadCourseModel(access, courseId);
  const { row } = course;
  const staff = await access.orm
    .select({ id: user.id, name: user.name, email: user.email })
    .from(courseStaff)
    .innerJoin(user, eq(user.id, courseStaff.userId))
    .where(eq(courseStaff.courseId, courseId));
  const activities = [...(await activitiesKind.stored(access, course)).values()];
  const hidden = await hiddenContacts(access, course.row.id);
  const roster = [...(await rosterKind.stored(access, course)).values()].map((r) =>
    hidden.has(r.id) ? { ...r, email: null } : r,
  );
  const gradebook = [...(await gradebookKind.stored(access, course)).values()];
  return {
    outcomes: [...(await outcomesKind.stored(access, course)).values()],
    activities,
    items: [...(await itemsKind.stored(access, course)).values()],
    roster,
    gradebook,
    ...(await ledgerRecords(access, course)),
    zone: row.zone,
    whole: {
      code: row.code,
      title: row.title,
      termName: row.termName,
      term: course.term,
      missing: row.policy.missing,
      units: await unitPath(access, row.unitId),
      sections: course.sections.map(({ name, meetings, exceptions }) => ({ name, meetings, exceptions })),
      staff,
      activities,
      roster,
      gradebook,
    },
  };
}

/** The names of a unit and of what it is part of, from the top down. */
async function unitPath({ orm }: Access, id: number | null): Promise<string[]> {
  if (id == null) return [];
  const all = new Map((await orm.select().from(units)).map((u) => [u.id, u]));
  const path: string[] = [];
  for (let unit = all.get(id); unit; unit = unit.parentId == null ? undefined : all.get(unit.parentId))
    path.unshift(unit.name);
  return path;
}

type LedgerRecords = { [K in LedgerKind]: readonly RecordOf[K][] };

async function ledgerRecords(
  access: Access,
  course: CourseModel,
  enrolmentId?: number,
): Promise<LedgerRecords> {
  const found: Partial<LedgerRecords> = {};
  const read = async <K extends LedgerKind>(kind: K) => {
    (found as { [P in K]?: readonly RecordOf[P][] })[kind] = [
      ...(await ledgerKinds[kind].stored(access, course, enrolmentId)).values(),
    ];
  };
  for (const kind of LEDGER_KINDS) await read(kind);
  return found as LedgerRecords;
}

/** What stands in the gradebook of one student, and hangs on them, as records. */
export async function studentRecords(
  access: Access,
  courseId: number,
  enrolmentId: number,
): Promise<LedgerRecords & { readonly gradebook: readonly GradebookRecord[] }> {
  const course = await loadCourseModel(access, courseId);
  return {
    gradebook: [...(await gradebookKind.stored(access, course, enrolmentId)).values()],
    ...(await ledgerRecords(access, course, enrolmentId)),
  };
}

/** The events of a course, or of one enrolment, in order of time. */
export async function eventRecords(
  access: Access,
  courseId: number,
  enrolmentId?: number,
): Promise<EventRecord[]> {
  const rows = await eventRows(access)
    .where(enrolmentId == null ? eq(seenEvents.courseId, courseId) : eq(seenEvents.enrolmentId, enrolmentId))
    .orderBy(asc(seenEvents.at), asc(seenEvents.eventId));
  return rows.map(eventRecordOf(await loadCourseModel(access, courseId)));
}
