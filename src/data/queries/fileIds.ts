import { eq } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { enrolments, persons } from '@/data/schema';
import type { CourseModel } from './courseModel';

/** Database ids by the ids of the files. */
export interface FileIds {
  readonly enrolmentOf: ReadonlyMap<string, number>;
  readonly activityOf: ReadonlyMap<string, number>;
}

/** Database ids of the people and activities of a course by the ids of the files. */
export async function idsOfFiles(
  { orm }: Access,
  courseId: number,
  activityRows: CourseModel['activities'],
): Promise<FileIds> {
  const rows = await orm
    .select({ external: persons.externalId, enrolment: enrolments.id })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, courseId));
  return {
    enrolmentOf: new Map(rows.map((r) => [r.external, r.enrolment])),
    activityOf: new Map(activityRows.map((a) => [a.externalId, a.id])),
  };
}
