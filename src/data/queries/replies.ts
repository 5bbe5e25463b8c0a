import { and, asc, count, eq, isNull, max } from 'drizzle-orm';
import type { ReplyView } from '@/core/views/conversation';
import type { Instant } from '@/core/units';
import type { Access } from '../database';
import { enrolments, replies } from '../schema';

type Row = typeof replies.$inferSelect;

export const replyView = (row: Row): ReplyView => ({
  id: row.id,
  body: row.body,
  at: row.at.getTime(),
  via: row.via,
  otherAddress: row.otherAddress,
  automatic: row.automatic,
  dropped: row.dropped,
  isNew: row.readAt == null,
});

/** What a student answered in a course, the oldest first. */
export const repliesOf = ({ orm }: Access, enrolmentId: number): Promise<Row[]> =>
  orm
    .select()
    .from(replies)
    .where(eq(replies.enrolmentId, enrolmentId))
    .orderBy(asc(replies.at), asc(replies.id));

/** Answers in a course that nobody who teaches it has read, by student. */
export async function unreadReplies({ orm }: Access, courseId: number): Promise<Map<number, number>> {
  const rows = await orm
    .select({ id: replies.enrolmentId, n: count() })
    .from(replies)
    .innerJoin(enrolments, eq(enrolments.id, replies.enrolmentId))
    .where(and(eq(replies.courseId, courseId), isNull(replies.readAt)))
    .groupBy(replies.enrolmentId);
  return new Map(rows.map((r) => [r.id, r.n]));
}

/** When each student of a course last answered; what a machine sent for them is no answer. */
export async function lastAnswered({ orm }: Access, courseId: number): Promise<Map<number, Instant>> {
  const rows = await orm
    .select({ id: replies.enrolmentId, at: max(replies.at) })
    .from(replies)
    .where(and(eq(replies.courseId, courseId), eq(replies.automatic, false)))
    .groupBy(replies.enrolmentId);
  return new Map(rows.flatMap((r) => (r.at ? [[r.id, r.at.getTime()]] : [])));
}

/** How many answers in a course nobody who teaches it has read. */
export async function unreadCount(access: Access, courseId: number): Promise<number> {
  const unread = await unreadReplies(access, courseId);
  return [...unread.values()].reduce((sum, n) => sum + n, 0);
}
