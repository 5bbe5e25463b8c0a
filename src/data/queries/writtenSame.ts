import { and, eq, gte, inArray, max } from 'drizzle-orm';
import type { Picked } from '@/core/acts/pick';
import { isSameMatter } from '@/core/messages/sameMatter';
import type { Instant } from '@/core/units';
import type { Access } from '../database';
import { messages, recipients } from '../schema';

/** When each of some students was last written to about the same as they are selected for, since an instant. */
export async function writtenSame(
  { orm }: Access,
  courseId: number,
  pickedOf: ReadonlyMap<number, Picked>,
  since: Instant,
): Promise<Map<number, Instant>> {
  if (pickedOf.size === 0) return new Map();
  const rows = await orm
    .select({
      id: recipients.enrolmentId,
      about: messages.about,
      activityId: messages.activityId,
      item: messages.item,
      reason: messages.reason,
      at: max(messages.createdAt),
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(
      and(
        eq(messages.courseId, courseId),
        gte(messages.createdAt, new Date(since)),
        inArray(recipients.enrolmentId, [...pickedOf.keys()]),
      ),
    )
    .groupBy(recipients.enrolmentId, messages.about, messages.activityId, messages.item, messages.reason);
  const found = new Map<number, Instant>();
  for (const { id, at, ...said } of rows) {
    const picked = pickedOf.get(id);
    const same = picked != null && isSameMatter(picked, said);
    if (same && at) found.set(id, Math.max(found.get(id) ?? -Infinity, at.getTime()));
  }
  return found;
}
