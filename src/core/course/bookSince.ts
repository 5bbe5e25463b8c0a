import type { Gradebook } from './gradebook';
import type { Instant } from '../units';

/** The gradebook of somebody who joined then (null: from the first day on): works due before are not held against them. */
export function bookSince({ book }: { readonly book: Gradebook }, joinedAt: Instant | null): Gradebook {
  if (joinedAt == null || book.activities.every((a) => a.due == null || a.due >= joinedAt)) return book;
  return { ...book, activities: book.activities.filter((a) => a.due == null || a.due >= joinedAt) };
}
