import { and, eq, isNull, max } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import type { Access } from '../database';
import { messages, recipients } from '../schema';
import { HAS_GONE } from './hasGone';

/** When each student of a course was last written to. */
export async function lastWritten({ orm }: Access, courseId: number): Promise<Map<number, Instant>> {
  const rows = await orm
    .select({ id: recipients.enrolmentId, at: max(messages.createdAt) })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(eq(messages.courseId, courseId))
    .groupBy(recipients.enrolmentId);
  return new Map(rows.flatMap((r) => (r.at ? [[r.id, r.at.getTime()]] : [])));
}

/** Students of a course who have a message that they have not read here. */
export async function withUnread({ orm }: Access, courseId: number): Promise<Set<number>> {
  const rows = await orm
    .selectDistinct({ id: recipients.enrolmentId })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(and(eq(messages.courseId, courseId), isNull(recipients.readAt), HAS_GONE));
  return new Set(rows.map((r) => r.id));
}
