import type { MailState } from '../messages/mailState';
import type { MessageDoc } from '../messages/doc';
import type { Instant, LocalDate } from '../units';

/** What a student answered. */
export interface ReplyView {
  readonly id: number;
  readonly body: string;
  readonly at: Instant;
  readonly via: 'here' | 'mail';
  /** It came by e-mail from this address, which is not the student's. */
  readonly otherAddress: string | null;
  /** It says that it comes from the student's address, and no server that we trust vouches for it. */
  readonly unverified: boolean;
  /** It can't be read, and is kept as it came. */
  readonly isKept: boolean;
  readonly automatic: boolean;
  readonly dropped: number;
  readonly isNew: boolean;
}

/** What was said between a student and those who teach them, the oldest first. */
export type Said =
  | {
      readonly by: 'staff';
      readonly key: string;
      readonly name: string;
      readonly subject: string;
      readonly doc: MessageDoc;
      readonly at: Instant;
      readonly goesAt: Instant | null;
      readonly readAt: Instant | null;
      readonly mailState: MailState;
    }
  | ({ readonly by: 'student'; readonly key: string } & ReplyView);

export interface ConversationView {
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  readonly email: string | null;
  readonly mailFault: { readonly why: string; readonly at: Instant } | null;
  /** The latest act of which a follow-up is open, and its day. */
  readonly followUp: { readonly actId: number; readonly on: LocalDate } | null;
  readonly today: LocalDate;
  /** A page of it. */
  readonly said: readonly Said[];
  /** Where the page before it ends; null if there is none. */
  readonly earlier: Instant | null;
  readonly isLatest: boolean;
  /** Another conversation with an answer that nobody has read; null without. */
  readonly next: number | null;
}

/** A conversation in the list: whoever said something last first. */
export interface ConversationLine {
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  readonly last: string;
  readonly lastBy: 'staff' | 'student';
  readonly at: Instant;
  readonly unread: number;
}
