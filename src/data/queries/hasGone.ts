import { and, isNotNull, ne } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import { messages, recipients } from '../schema';

/** Whether a copy is in its recipient's hands: its message has gone, and they were not left out. */
export const HAS_GONE = and(isNotNull(messages.goneAt), ne(recipients.mailState, 'left out'))!;

/** When a message goes that has not gone; null once it has. */
export const waitsUntil = ({ goesAt, goneAt, createdAt }: typeof messages.$inferSelect): Instant | null =>
  goneAt == null ? (goesAt ?? createdAt).getTime() : null;
