import type { LocalDate } from '../units';

/** Whom a word in passing can be with. */
export interface PassingView {
  readonly today: LocalDate;
  readonly students: readonly {
    readonly enrolmentId: number;
    readonly name: string;
    readonly section: string | null;
  }[];
}
