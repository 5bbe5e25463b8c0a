import { and, asc, eq, lt, sql } from 'drizzle-orm';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { classMastery } from '@/core/outcomes/evidence';
import { finish } from '@/core/steps';
import { DAY_MS, type Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { loadClassRecord } from '@/data/queries/classRecord';
import { loadCourseModel } from '@/data/queries/courseModel';
import { findItemNorms, readLearning } from '@/data/queries/learning';
import { activities, answersNow, goals, itemQuestions } from '@/data/schema';
import { outcomeParts } from '@/server/derive/masteries';

/** What the class is to be secure in, and since when and until when. */
const GOAL = { outcomes: ['heights', 'streams', 'lights'], since: 21, until: 18 } as const;
/** Who does not see why: some who got it wrong. */
const QUESTION = { quiz: 'quiz-streams', item: 'item 10', students: 3 } as const;

/** A goal that was set some weeks ago, with where everybody stood then, and students who do not see why an item is right. */
export async function seedLearning(
  db: Database,
  { courseId, userId, now }: { readonly courseId: number; readonly userId: string; readonly now: Instant },
): Promise<void> {
  const course = await loadCourseModel(db, courseId);
  // Quizzes that are over were gone through in class: their keys are shown.
  await db.orm
    .update(activities)
    .set({ keyShown: 'now' })
    .where(
      and(
        eq(activities.courseId, courseId),
        eq(activities.kind, 'quiz'),
        lt(activities.dueAt, new Date(now)),
      ),
    );
  const today = localDate(now, course.row.zone);
  const from = addDays(today, -GOAL.since);
  const learning = await readLearning(db, courseId, await findItemNorms(db, courseId));
  const then = startOfDay(from, course.row.zone);
  const { students } = finish(
    classMastery(await loadClassRecord(db, course), outcomeParts(course), course.covers, learning, then),
  );
  const wanted = course.outcomes.filter((o) => (GOAL.outcomes as readonly string[]).includes(o.externalId));
  await db.orm.insert(goals).values({
    courseId,
    outcomeIds: wanted.map((o) => o.id),
    from,
    by: addDays(today, GOAL.until),
    atStart: Object.fromEntries(
      [...students].map(([id, levels]) => [
        id,
        wanted.flatMap((o) => (levels.get(String(o.id))?.level === 'secure' ? [o.id] : [])),
      ]),
    ),
    userId,
  });
  const wrong = await db.orm
    .select({ student: answersNow.enrolmentId, activity: activities.id })
    .from(answersNow)
    .innerJoin(activities, eq(activities.id, answersNow.activityId))
    .where(
      and(
        eq(activities.courseId, courseId),
        eq(activities.externalId, QUESTION.quiz),
        eq(answersNow.item, QUESTION.item),
        eq(answersNow.attempt, 1),
        sql`${answersNow.score} < 1`,
      ),
    )
    .orderBy(asc(answersNow.enrolmentId))
    .limit(QUESTION.students);
  if (wrong.length === 0) return;
  await db.orm.insert(itemQuestions).values(
    wrong.map(({ student, activity }, i) => ({
      enrolmentId: student,
      activityId: activity,
      item: QUESTION.item,
      at: new Date(now - (i + 1) * DAY_MS),
    })),
  );
}
