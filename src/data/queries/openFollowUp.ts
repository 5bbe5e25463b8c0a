import { and, isNotNull, isNull, ne } from 'drizzle-orm';
import { acts } from '../schema';

/** The acts of which a follow-up is open. What is put off comes back by itself. */
export const OPEN_FOLLOW_UP = and(
  isNotNull(acts.followUpOn),
  isNull(acts.followedUpAt),
  ne(acts.kind, 'put off'),
)!;
