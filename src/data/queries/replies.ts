import { and, count, desc, eq, gt, isNull, lt, max } from 'drizzle-orm';
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
  unverified: row.unverified,
  isKept: row.uploadId != null,
  automatic: row.automatic,
  dropped: row.dropped,
  isNew: row.readAt == null,
});

/**
 * What a student answered in a course, the oldest first: all of it, or the latest so many before an instant.
 */
export async function repliesOf(
  { orm }: Access,
  enrolmentId: number,
  { before, latest }: { readonly before?: Instant; readonly latest?: number } = {},
): Promise<Row[]> {
  const all = orm
    .select()
    .from(replies)
    .where(
      and(
        eq(replies.enrolmentId, enrolmentId),
        before == null ? undefined : lt(replies.at, new Date(before)),
      ),
    )
    .orderBy(desc(replies.at), desc(replies.id));
  return (await (latest == null ? all : all.limit(latest))).reverse();
}

/** How many answers a student sent since an instant, here and by e-mail. */
export async function answersSince({ orm }: Access, enrolmentId: number, since: Instant): Promise<number> {
  const [row] = await orm
    .select({ n: count() })
    .from(replies)
    .where(and(eq(replies.enrolmentId, enrolmentId), gt(replies.at, new Date(since))));
  return row?.n ?? 0;
}

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
