import { readFile } from 'node:fs/promises';
import { and, eq, isNull } from 'drizzle-orm';
import type { AnswerForm } from '@/core/forms/answer';
import { MOST_ANSWERS_A_DAY } from '@/core/messages/answerLimit';
import { DAY_MS } from '@/core/units';
import { HAS_GONE } from '@/data/queries/hasGone';
import { answersSince } from '@/data/queries/replies';
import { courses, enrolments, messages, recipients, replies } from '@/data/schema';
import { answerCame } from '../follow/answerCame';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { notFound, tooMany } from '../base/errors';
import { stagedMail } from '../staging/staging';
import { mayIn, requireCourse, requireEnrolment, requireStudent, type Viewer } from '../access/viewer';

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
  await db.transaction(async (tx) => {
    await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.id, own.enrolmentId))
      .for('update');
    if ((await answersSince(tx, own.enrolmentId, now() - DAY_MS)) >= MOST_ANSWERS_A_DAY)
      throw tooMany(
        `You’ve sent ${MOST_ANSWERS_A_DAY} replies in one day, which is the limit. Try again tomorrow, or talk to your instructor.`,
      );
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

/** An e-mail of a student that can't be read here, as it came; refused to those who may not read their conversation. */
export async function keptAnswer(viewer: Viewer, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { orm } = await database();
  const [row] = await orm
    .select({ courseId: replies.courseId, code: courses.code, upload: replies.uploadId })
    .from(replies)
    .innerJoin(courses, eq(courses.id, replies.courseId))
    .where(eq(replies.id, id));
  const gone = () => notFound('e-mail that is kept');
  if (!row?.upload || !(await mayIn(viewer, 'act', row.courseId))) throw gone();
  const path = await stagedMail(row.upload);
  if (path == null) throw gone();
  return { name: `${row.code}-e-mail-${id}.eml`, bytes: await readFile(path) };
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
