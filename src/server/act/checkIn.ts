import { and, eq, gte, sql } from 'drizzle-orm';
import type { CheckInForm } from '@/core/forms/checkIn';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { checkIns, courses, enrolments } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { requireStudent, type Viewer } from '../access/viewer';

/**
 * Keeps how it goes for the viewer in a course, and what is in the way; said again on the same day, it stands for what was
 * said before. Returns the id, for removing it.
 */
export async function checkIn(viewer: Viewer, form: CheckInForm): Promise<number> {
  const personId = requireStudent(viewer);
  const db = await database();
  return db.transaction(async ({ orm }) => {
    const [place] = await orm
      .select({ enrolment: enrolments, course: courses })
      .from(enrolments)
      .innerJoin(courses, eq(courses.id, enrolments.courseId))
      .where(
        and(
          eq(enrolments.personId, personId),
          eq(enrolments.status, 'active'),
          eq(courses.code, form.course),
        ),
      )
      .for('update', { of: enrolments });
    if (!place) throw notFound('course of yours');
    const { enrolment, course } = place;
    const today = startOfDay(localDate(now(), course.zone), course.zone);
    await orm
      .delete(checkIns)
      .where(and(eq(checkIns.enrolmentId, enrolment.id), gte(checkIns.at, new Date(today))));
    const [row] = await orm
      .insert(checkIns)
      .values({
        courseId: course.id,
        enrolmentId: enrolment.id,
        how: form.how,
        inTheWay: [...new Set(form.inTheWay)],
        word: form.word.trim(),
        at: nowDate(),
      })
      .returning({ id: checkIns.id });
    return row!.id;
  });
}

/** Removes what the viewer said of how it goes. */
export async function removeCheckIn(viewer: Viewer, id: number): Promise<void> {
  const personId = requireStudent(viewer);
  const { orm } = await database();
  const gone = await orm
    .delete(checkIns)
    .where(
      and(
        eq(checkIns.id, id),
        sql`${checkIns.enrolmentId} in (select id from enrolments where person_id = ${personId})`,
      ),
    )
    .returning({ id: checkIns.id });
  if (gone.length === 0) throw notFound('word of yours');
}
