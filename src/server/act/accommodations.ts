import { and, eq } from 'drizzle-orm';
import type { AccommodationForm } from '@/core/forms/give';
import { accommodationOf, type Accommodation } from '@/data/queries/accommodations';
import { accommodations, enrolments } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { refuseStale } from '../base/version';

/** Keeps what a student gets beyond the others; what is assigned to them from now on follows it. Returns what stood before. */
export async function saveAccommodation(
  viewer: Viewer,
  code: string,
  { enrolmentId, moreTime, readAloud }: AccommodationForm,
  was?: object | null,
): Promise<Accommodation> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  return db.transaction(async (tx) => {
    const [there] = await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(and(eq(enrolments.id, enrolmentId), eq(enrolments.courseId, course.id)))
      .for('update');
    if (!there) throw notFound('student in this course');
    const before = await accommodationOf(tx, enrolmentId);
    refuseStale(was, { moreTime: before.moreTime, readAloud: before.readAloud });
    await tx.orm
      .insert(accommodations)
      .values({ enrolmentId, moreTime, readAloud })
      .onConflictDoUpdate({ target: accommodations.enrolmentId, set: { moreTime, readAloud } });
    return before;
  });
}
