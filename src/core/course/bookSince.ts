import type { Gradebook } from '../gradebook/model';
import type { Instant } from '../units';
import type { ClassRecord } from './record';

/** The gradebook of somebody who joined then: works due before are not held against them. */
export function bookSince(record: ClassRecord, joinedAt: Instant): Gradebook {
  const { book } = record;
  const earlier = book.activities.some((a) => a.due != null && a.due < joinedAt);
  return earlier
    ? { ...book, activities: book.activities.filter((a) => a.due == null || a.due >= joinedAt) }
    : book;
}
