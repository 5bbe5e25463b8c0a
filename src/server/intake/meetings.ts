import { and, eq } from 'drizzle-orm';
import * as yup from 'yup';
import type { Access } from '@/data/database';
import { enrolments, sections } from '@/data/schema';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel } from '@/data/queries/courseModel';
import { setupChanged } from '../derive/setupChanged';
import type { PackageAbout } from './readFiles';

const hour = {
  startMinute: yup.number().integer().min(0).max(1439).required(),
  minutes: yup.number().integer().min(1).max(1440).required(),
};
const meetingsSchema = yup
  .array(yup.object({ weekday: yup.number().integer().min(1).max(7).required(), ...hour }).required())
  .max(50)
  .required();
const exceptionsSchema = yup
  .array(
    yup.object({
      on: yup
        .string()
        .matches(/^\d{4}-\d\d-\d\d$/)
        .required(),
      instead: yup.object(hour).nullable().defined().default(null),
    }),
  )
  .max(200)
  .required();

/** Reads a list from the JSON of an extension column; anything else is an empty list. */
export function listFrom<T>(schema: yup.Schema<T[]>, text: string): T[] {
  try {
    return schema.validateSync(JSON.parse(text), { strict: true });
  } catch {
    return [];
  }
}

/** The meetings and exceptions of a section of a package. */
export const meetingsOf = (section: PackageAbout['sections'][number]) => ({
  meetings: listFrom(meetingsSchema, section.meetings),
  exceptions: listFrom(exceptionsSchema, section.exceptions),
});

/** Gives sections that have no meetings yet those that a package states, and cuts the time of their students anew. */
export async function bringMeetings(
  access: Access,
  courseId: number,
  packages: readonly PackageAbout[],
): Promise<void> {
  const affected = new Map<number, number>();
  for (const section of packages.flatMap((p) => p.sections)) {
    const stated = meetingsOf(section);
    if (stated.meetings.length + stated.exceptions.length === 0) continue;
    const [known] = await access.orm
      .select()
      .from(sections)
      .where(and(eq(sections.courseId, courseId), eq(sections.name, section.name)));
    if (!known || known.meetings.length + known.exceptions.length > 0) continue;
    await access.orm.update(sections).set(stated).where(eq(sections.id, known.id));
    const members = await access.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.sectionId, known.id));
    for (const { id } of members) affected.set(id, -Infinity);
  }
  if (affected.size === 0) return;
  await setupChanged(access, courseId);
  await deriveActivity(access, await loadCourseModel(access, courseId), affected);
}
