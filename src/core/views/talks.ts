import type { TalkTimesForm } from '../forms/talk';
import type { Slot } from '../talks/times';
import type { Instant, LocalDate } from '../units';

/** A talk in the hands of those who hold it. */
export interface TalkLine {
  readonly id: number;
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  /** Whose talk it is. */
  readonly with: string;
  readonly own: boolean;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly place: string;
  /** Whether something was written down after it. */
  readonly noted: boolean;
}

/** Times that an instructor gave, with what became of them. */
export interface TimesLine {
  readonly id: number;
  readonly form: TalkTimesForm;
  /** Slots from now on that can be taken, and talks booked from now on. */
  readonly free: number;
  readonly booked: number;
  /** The next days on which they take place, and those on which they would but for an exception. */
  readonly days: readonly LocalDate[];
  readonly except: readonly LocalDate[];
}

/** The talks of a course. */
export interface TalksView {
  readonly today: LocalDate;
  readonly termEnd: LocalDate;
  /** Those to come, the next first, and those that are over, the latest first. */
  readonly coming: readonly TalkLine[];
  readonly past: readonly TalkLine[];
  readonly times: readonly TimesLine[];
}

/** A talk that a student has, or could take. */
export interface OwnTalk {
  readonly id: number;
  readonly with: string;
  readonly userId: string;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly place: string;
}

/** What an instructor offers a student: free slots, the next first. */
export interface TalkOffer {
  readonly userId: string;
  readonly with: string;
  readonly slots: readonly (Slot & {
    readonly times: number;
    readonly place: string;
    readonly seats: number;
  })[];
}
