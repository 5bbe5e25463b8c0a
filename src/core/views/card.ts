import type { Instant, LocalDate } from '../units';

/** Somebody to speak to, with a kind opening and why. */
export interface CardPerson {
  readonly enrolmentId: number;
  readonly name: string;
  readonly why: string;
  readonly opening: string;
}

/** The card for the next meeting of a section: what fits on a phone. */
export interface CardView {
  readonly today: LocalDate;
  readonly sections: readonly { readonly id: number; readonly name: string }[];
  readonly section: { readonly id: number; readonly name: string } | null;
  /** The meeting that runs or comes next; null if the section meets no more. */
  readonly meeting: { readonly from: Instant; readonly until: Instant; readonly running: boolean } | null;
  /** The day after which a "later" comes up again. */
  readonly nextDay: LocalDate | null;
  readonly people: readonly CardPerson[];
  readonly outcome: { readonly title: string; readonly behind: number; readonly of: number } | null;
  readonly groups: readonly { readonly outcome: string; readonly names: readonly string[] }[];
  readonly back: readonly { readonly enrolmentId: number; readonly name: string; readonly days: number }[];
}
