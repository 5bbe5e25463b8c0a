import { and, eq, isNull } from 'drizzle-orm';
import type { AnswerForm } from '@/core/forms/answer';
import { DAY_MS } from '@/core/units';
import { HAS_GONE } from '@/data/queries/hasGone';
import { repliesOf } from '@/data/queries/replies';
import { courses, enrolments, messages, recipients, replies } from '@/data/schema';
import { answerCame } from '../follow/answerCame';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { notFound, tooMany } from '../base/errors';
import { requireCourse, requireEnrolment, requireStudent, type Viewer } from '../access/viewer';

/** Answers that a student can send in a day: nobody writes more by hand. */
const MOST_A_DAY = 100;

/** Takes an answer of the viewer's to a message that is in their hands. The same key is kept once. */
export async function answerMessage(viewer: Viewer, { recipient, key, text }: AnswerForm): Promise<void> {
  const personId = requireStudent(viewer);
  const db = await database();
  const { orm } = db;
  const [own] = await orm
    .select({
      id: recipients.id,
      enrolmentId: recipients.enrolmentId,
      courseId: messages.courseId,
      zone: courses.zone,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(courses, eq(courses.id, messages.courseId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .where(and(eq(recipients.id, recipient), eq(enrolments.personId, personId), HAS_GONE));
  if (!own) throw notFound('message to you');
  const all = await repliesOf(db, own.enrolmentId);
  if (all.filter((r) => r.at.getTime() > now() - DAY_MS).length >= MOST_A_DAY)
    throw tooMany('That is a lot for one day; go on tomorrow, or speak to your instructor.');
  await db.transaction(async (tx) => {
    const kept = await tx.orm
      .insert(replies)
      .values({
        courseId: own.courseId,
        enrolmentId: own.enrolmentId,
        recipientId: own.id,
        body: text.trim(),
        via: 'here',
        key,
        at: nowDate(),
      })
      .onConflictDoNothing()
      .returning({ id: replies.id });
    if (kept.length > 0) await answerCame(tx, own.id, own.zone);
  });
}

/** Notes that somebody who teaches the course has read what a student answered. */
export async function readConversation(viewer: Viewer, code: string, enrolmentId: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  const { orm } = await database();
  await orm
    .update(replies)
    .set({ readAt: nowDate(), readBy: viewer.userId })
    .where(and(eq(replies.enrolmentId, enrolmentId), isNull(replies.readAt)));
}
