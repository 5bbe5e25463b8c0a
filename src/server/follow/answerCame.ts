import { and, eq, gt, inArray, isNotNull, isNull, or } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { Access } from '@/data/database';
import { acts, recipients } from '@/data/schema';
import { now, nowDate } from '../base/clock';

/**
 * An answer to a copy came: the copy has been read, and whoever wrote it looks at the answer today, whatever day to look
 * again they had set, or none. In the transaction of the answer.
 */
export async function answerCame({ orm }: Access, recipientId: number, zone: string): Promise<void> {
  await orm
    .update(recipients)
    .set({ readAt: nowDate() })
    .where(and(eq(recipients.id, recipientId), isNull(recipients.readAt)));
  const today = localDate(now(), zone);
  await orm
    .update(acts)
    .set({ followUpOn: today, followedUpAt: null, followedUpBy: null })
    .where(
      and(
        eq(acts.recipientId, recipientId),
        inArray(acts.kind, ['messaged', 'planned', 'by rule']),
        // One that is due already keeps the day since which it is.
        or(isNull(acts.followUpOn), gt(acts.followUpOn, today), isNotNull(acts.followedUpAt)),
      ),
    );
}
