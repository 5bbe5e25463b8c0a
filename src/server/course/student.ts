import { and, eq, ne } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { StudentForm } from '@/core/views/setup';
import type { Access } from '@/data/database';
import { enrolments, persons } from '@/data/schema';
import { database } from '../database';
import { peopleChanged } from '../derive/peopleChanged';
import { invalid, notFound } from '../errors';
import { isWaiting, matchByRule, matchPerson } from '../intake/waiting';
import { fullName } from '../roster';
import type { Viewer } from '../viewer';
import { editCourse, type Edit } from './change';

/**
 * Puts one student into a course by hand, or mends what is on record about them. Rows of theirs that waited go in.
 * Whoever the id belongs to already is not renamed by adding them: their name must be typed as it is on record.
 *
 * @param person what a source calls them, whose waiting rows are theirs whatever their id and address say
 * @returns how many rows went in that waited
 */
export async function saveStudent(
  viewer: Viewer,
  code: string,
  form: StudentForm,
  person: string | null = null,
): Promise<number> {
  const { courseId, id } = await editCourse(viewer, code, async (edit) => {
    const { sectionId } = form;
    if (sectionId != null && !edit.model.sections.some((s) => s.id === sectionId))
      throw notFound('section of this course');
    const courseId = edit.course.id;
    if (form.id == null) return { value: { courseId, id: await add(edit, form) } };
    return { value: { courseId, id: form.id }, recut: await mend(edit, form.id, form) };
  });
  await peopleChanged(await database(), courseId);
  const byRule = await matchByRule(viewer, code);
  if (person == null || !(await isWaiting(courseId, person))) return byRule;
  return byRule + (await matchPerson(viewer, code, person, id)).rows;
}

const byId = async ({ orm }: Access, externalId: string) =>
  (await orm.select().from(persons).where(eq(persons.externalId, externalId)))[0];

/** Returns the place in the course. */
async function add({ tx, course, at }: Edit, form: StudentForm): Promise<number> {
  const { externalId, given, family, email, sectionId } = form;
  await tx.orm.insert(persons).values({ externalId, given, family, email }).onConflictDoNothing();
  const person = (await byId(tx, externalId))!;
  if (fullName(person).toLowerCase() !== fullName(form).toLowerCase())
    throw invalid(`The id “${externalId}” is that of somebody with another name.`);
  const [place] = await tx.orm
    .select()
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.personId, person.id)));
  if (place) throw invalid(`${fullName(person)} is in this course already, as ${place.status}.`);
  if (email != null && email !== person.email)
    await tx.orm.update(persons).set({ email }).where(eq(persons.id, person.id));
  const [made] = await tx.orm
    .insert(enrolments)
    .values({ courseId: course.id, personId: person.id, sectionId, joinedOn: localDate(at, course.zone) })
    .returning({ id: enrolments.id });
  return made!.id;
}

/** Returns whose days are to be cut anew: time in class follows the section. */
async function mend({ tx, course }: Edit, id: number, form: StudentForm): Promise<readonly number[] | null> {
  const { externalId, given, family, email, sectionId } = form;
  const [place] = await tx.orm
    .select()
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.id, id)));
  if (!place) throw notFound('student in this course');
  const [other] = await tx.orm
    .select()
    .from(persons)
    .where(and(eq(persons.externalId, externalId), ne(persons.id, place.personId)));
  if (other) throw invalid(`The id “${externalId}” is that of somebody else.`);
  await tx.orm
    .update(persons)
    .set({ externalId, given, family, email })
    .where(eq(persons.id, place.personId));
  if (sectionId === place.sectionId) return null;
  await tx.orm.update(enrolments).set({ sectionId }).where(eq(enrolments.id, id));
  return [id];
}
