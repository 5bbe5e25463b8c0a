import type { MergeValues } from '../messages/fields';
import type { PlanStep } from '../plans/propose';
import type { About, Picked } from '../acts/pick';
import type { MessageDoc } from '../messages/doc';
import type { ClassAbout } from '../people/traitAbout';
import type { Instant, LocalDate } from '../units';
import type { CourseHead } from './courseHead';
import type { StepForm } from '../forms/message';
import type { ReasonView } from './reason';

export interface ComposeRecipient {
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  readonly email: string | null;
  readonly active: boolean;
  /** Why they were selected; what it is about chooses the text to begin with. */
  readonly picked: Picked;
  readonly reasons: readonly ReasonView[];
  readonly values: MergeValues;
  readonly plan: readonly PlanStep[];
  /** Assignments that are missing, by id. */
  readonly missing: readonly number[];
  readonly givenName: string;
  /** Whether they want messages as e-mail too. */
  readonly mailCopies: boolean;
  /** When they were last written to about the same, within the cool-down; null if they were not. */
  readonly lastSame: Instant | null;
}

export interface ComposeView {
  readonly course: CourseHead;
  readonly today: LocalDate;
  readonly recipients: readonly ComposeRecipient[];
  /** What paragraphs can depend on: the traits of the class, and the order of its cells. */
  readonly about: ClassAbout;
  readonly order: readonly number[];
  readonly templates: readonly SavedTemplate[];
  /** What a step can be made from. */
  readonly activities: readonly { readonly id: string; readonly title: string; readonly minutes: number }[];
  /** How many times for a talk the writer can offer, and when the first is. */
  readonly talks: { readonly free: number; readonly next: Instant | null };
}

/** One text to those who were selected for the same. */
export interface SendInput {
  /** Made by the composing page; the same key is never sent twice. */
  readonly key: string;
  readonly subject: string;
  readonly doc: MessageDoc;
  readonly reason: string;
  readonly about: About;
  readonly activityId: number | null;
  /** The item of it that the recipients answered, if it is about one. */
  readonly item?: string | null;
  readonly recipients: readonly {
    readonly enrolmentId: number;
    readonly plan: readonly StepForm[] | null;
    /** A text for them alone. */
    readonly own?: { readonly subject: string; readonly doc: MessageDoc } | null;
  }[];
}

/** A saved text to begin with. */
export interface SavedTemplate {
  readonly id: number;
  readonly name: string;
  readonly about: About;
  readonly subject: string;
  /** Null if it cannot be used as it stands. */
  readonly doc: MessageDoc | null;
  readonly shared: boolean;
  readonly own: boolean;
  /** Why it cannot be used. */
  readonly fault: string | null;
}

export interface Sent {
  /** The first of them. */
  readonly messageId: number;
  readonly messages: number;
  readonly recipients: number;
  /** When they go; null if they have gone. */
  readonly goesAt: Instant | null;
  /** The message had been sent already: nothing was sent again. */
  readonly again: boolean;
}
