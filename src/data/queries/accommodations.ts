import { eq } from 'drizzle-orm';
import type { AccommodationForm } from '@/core/forms/give';
import type { Access } from '../database';
import { accommodations } from '../schema';

export type Accommodation = Pick<AccommodationForm, 'moreTime' | 'readAloud'>;

/** What a student gets beyond the others; nothing where nothing was said. */
export async function accommodationOf(
  { orm }: Pick<Access, 'orm'>,
  enrolmentId: number,
): Promise<Accommodation> {
  const [row] = await orm.select().from(accommodations).where(eq(accommodations.enrolmentId, enrolmentId));
  return { moreTime: row?.moreTime ?? 0, readAloud: row?.readAloud ?? false };
}
