import { and, eq } from 'drizzle-orm';
import type { AccommodationForm } from '@/core/forms/give';
import { accommodationOf, type Accommodation } from '@/data/queries/accommodations';
import { accommodations, enrolments } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { notFound } from '../base/errors';

/** Keeps what a student gets beyond the others; what is assigned to them from now on follows it. Returns what stood before. */
export async function saveAccommodation(
  viewer: Viewer,
  code: string,
  { enrolmentId, moreTime, readAloud }: AccommodationForm,
): Promise<Accommodation> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const [there] = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(and(eq(enrolments.id, enrolmentId), eq(enrolments.courseId, course.id)));
  if (!there) throw notFound('student in this course');
  const before = await accommodationOf(db, enrolmentId);
  await db.orm
    .insert(accommodations)
    .values({ enrolmentId, moreTime, readAloud })
    .onConflictDoUpdate({ target: accommodations.enrolmentId, set: { moreTime, readAloud } });
  return before;
}
