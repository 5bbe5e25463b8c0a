import { and, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { StudentForm } from '@/core/forms/setup';
import type { Access } from '@/data/database';
import { enrolments, persons } from '@/data/schema';
import { changeIdentity, type Change } from '../../access/proposals';
import { database } from '../../base/database';
import { peopleChanged } from '../../derive/peopleChanged';
import { invalid, notFound } from '../../base/errors';
import { refuseStale } from '../../base/version';
import { isWaiting, matchByRule, matchPerson } from '../../intake/waiting';
import { fullName } from '../../snapshot/roster';
import type { Viewer } from '../../access/viewer';
import { editCourse, type Edit } from './change';
import { shownEmail } from '@/data/queries/shownEmail';
import { peopleOfOthers } from '../../access/reliedOn';

/** What became of saving a student: rows of theirs that had waited and went in, and whether a change of who they are waits. */
export interface SavedStudent {
  readonly rows: number;
  readonly proposed: boolean;
}

/**
 * Puts one student into a course by hand, or corrects what is on record about them. Rows of theirs that waited go in.
 * Whoever the id belongs to already is not renamed by adding them: their name must be typed as it is on record. Who
 * somebody is that courses of others rely on is proposed, not changed.
 *
 * @param person what a source calls them, whose waiting rows are theirs whatever their id and address say
 */
export async function saveStudent(
  viewer: Viewer,
  code: string,
  form: StudentForm,
  person: string | null = null,
  was?: object | null,
): Promise<SavedStudent> {
  const { courseId, id, change } = await editCourse(viewer, code, async (edit) => {
    const { sectionId } = form;
    if (sectionId != null && !edit.model.sections.some((s) => s.id === sectionId))
      throw notFound('section of this course');
    const courseId = edit.course.id;
    if (form.id == null) return { value: { courseId, ...(await add(edit, viewer.userId, form)) } };
    const { change, recut } = await correct(edit, viewer.userId, form.id, form, was);
    return { value: { courseId, id: form.id, change }, recut };
  });
  if (change !== 'proposed') await peopleChanged(await database(), courseId);
  const saved = (rows: number): SavedStudent => ({ rows, proposed: change === 'proposed' });
  const byRule = await matchByRule(viewer, code);
  if (person == null || !(await isWaiting(courseId, person))) return saved(byRule);
  return saved(byRule + (await matchPerson(viewer, code, person, id)).rows);
}

/** Returns the place in the course. */
async function add(
  { tx, course, at }: Edit,
  userId: string,
  form: StudentForm,
): Promise<{ id: number; change: Change }> {
  const { externalId, given, family, email, sectionId } = form;
  const made = await tx.orm
    .insert(persons)
    .values({ externalId, given, family, email })
    .onConflictDoNothing()
    .returning();
  const [person] = made.length > 0 ? made : await byId(tx, externalId);
  if (!person) throw notFound('student');
  if (fullName(person).toLowerCase() !== fullName(form).toLowerCase())
    throw invalid(`The id “${externalId}” is that of somebody with another name.`);
  const [place] = await tx.orm
    .select()
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.personId, person.id)));
  if (place) throw invalid(`${fullName(person)} is in this course already, as ${place.status}.`);
  // An empty address says nothing of the one on record.
  const wanted = { ...person, email: email ?? person.email };
  const change = made.length > 0 ? 'changed' : await changeIdentity(tx, userId, person.id, wanted);
  // Who knows an id and a name learns no address by it.
  const known = email != null && email.toLowerCase() === person.email?.toLowerCase();
  const contactHidden =
    made.length === 0 && !known && (await peopleOfOthers(tx, userId, [externalId])).size > 0;
  const [enrolled] = await tx.orm
    .insert(enrolments)
    .values({
      courseId: course.id,
      personId: person.id,
      sectionId,
      joinedOn: localDate(at, course.zone),
      contactHidden,
    })
    .returning({ id: enrolments.id });
  return { id: enrolled!.id, change };
}

const byId = ({ orm }: Access, externalId: string) =>
  orm.select().from(persons).where(eq(persons.externalId, externalId));

/** Returns what became of it, and whose days are to be cut anew: time in class follows the section. */
async function correct(
  { tx, course }: Edit,
  userId: string,
  id: number,
  form: StudentForm,
  was?: object | null,
): Promise<{ change: Change; recut: readonly number[] | null }> {
  const { sectionId } = form;
  const [place] = await tx.orm
    .select()
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.id, id)));
  if (!place) throw notFound('student in this course');
  const [stored] = await tx.orm.select().from(persons).where(eq(persons.id, place.personId)).for('update');
  if (!stored) throw notFound('student');
  const { externalId, given, family } = stored;
  refuseStale(was, {
    externalId,
    given,
    family,
    email: shownEmail(stored, place),
    sectionId: place.sectionId,
  });
  // An address that is not shown is not taken away either.
  const wanted = place.contactHidden && form.email == null ? { ...form, email: stored.email } : form;
  const change = await changeIdentity(tx, userId, place.personId, wanted);
  if (sectionId === place.sectionId) return { change, recut: null };
  await tx.orm.update(enrolments).set({ sectionId }).where(eq(enrolments.id, id));
  return { change, recut: [id] };
}
