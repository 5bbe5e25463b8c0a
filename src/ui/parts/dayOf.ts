import type { LocalDate } from '@/core/units';

/** The day of a date on the clock of this machine. */
export const dayOf = (date: Date): LocalDate =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
