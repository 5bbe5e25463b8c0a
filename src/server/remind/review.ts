import { and, eq } from 'drizzle-orm';
import { nextReview } from '@/core/acts/review';
import { may } from '@/core/access/may';
import { localDate } from '@/core/calendar/zone';
import { counted, listed } from '@/core/format';
import type { Database } from '@/data/database';
import { courses, courseStaff, reviewTimes, user } from '@/data/schema';
import { now } from '../base/clock';
import { config } from '../base/config';
import { dueCount } from '../follow/followUps';
import { wakeRunner, type Payload } from '../jobs/queue';
import { answersToRead } from '../look/conversation';
import { waitingCount } from '../look/rounds';
import { writeLetters } from '../mail/letters';
import { queueReview } from './queueReview';

/** Reminds somebody of their weekly time, saying what is unfinished and nothing of whom, and queues the next. */
export async function remindOfReview(
  db: Database,
  { userId, courseId, at }: Payload<'review'>,
): Promise<void> {
  const [found] = await db.orm
    .select({ time: reviewTimes, course: courses, user, role: courseStaff.role, until: courseStaff.until })
    .from(reviewTimes)
    .innerJoin(courses, eq(courses.id, reviewTimes.courseId))
    .innerJoin(user, eq(user.id, reviewTimes.userId))
    .innerJoin(
      courseStaff,
      and(eq(courseStaff.courseId, reviewTimes.courseId), eq(courseStaff.userId, reviewTimes.userId)),
    )
    .where(and(eq(reviewTimes.userId, userId), eq(reviewTimes.courseId, courseId)));
  if (!found || nextReview(found.time, at - 1, found.course.zone) !== at) return;
  const { course, role } = found;
  const grant = { role, course: courseId, until: found.until?.getTime() ?? null };
  if (!may([grant], 'act', courseId, now()) || course.archivedAt != null) return;
  const [waiting, due, unread] = [
    await waitingCount(course),
    await dueCount(course),
    await answersToRead(course),
  ];
  const left = [
    ...(waiting > 0 ? [`${counted(waiting, 'student')} in Rounds`] : []),
    ...(due > 0 ? [counted(due, 'follow-up')] : []),
    ...(unread > 0 ? [counted(unread, 'answer')] : []),
  ];
  const base = `${config().baseUrl}/c/${course.code}`;
  await db.transaction(async (tx) => {
    await writeLetters(tx, [
      {
        key: `review-${courseId}-${userId}-${localDate(at, course.zone)}-${at}`,
        courseId,
        to: { userId, name: found.user.name, email: found.user.email },
        subject:
          left.length === 0 ? `${course.code}: nothing waits` : `${course.code}: ${listed(left)} to look at`,
        body:
          left.length === 0
            ? `This is your weekly time for ${course.title}. Nothing waits for you; the week is at ${base}/week`
            : `This is your weekly time for ${course.title}. Waiting for you: ${listed(left)}.\n\nGo on where you left off: ${base}/rounds`,
      },
    ]);
    await queueReview(tx, { userId, courseId }, nextReview(found.time, at, course.zone));
  });
  wakeRunner();
}
