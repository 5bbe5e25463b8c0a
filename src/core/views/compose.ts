import type { MergeValues } from '../messages/fields';
import type { PlanStep } from '../plans/propose';
import type { FlagKind } from '../flags/indicators';
import type { LocalDate } from '../units';
import type { CourseHead } from './courseHead';
import type { StepInput } from './plan';
import type { ReasonView } from './reason';

export interface ComposeRecipient {
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  readonly email: string | null;
  readonly active: boolean;
  readonly reasons: readonly ReasonView[];
  readonly values: MergeValues;
  readonly plan: readonly PlanStep[];
}

export interface ComposeView {
  readonly course: CourseHead;
  readonly today: LocalDate;
  readonly recipients: readonly ComposeRecipient[];
  /** The reason they share, if they do: it chooses the text to begin with. */
  readonly sharedReason: FlagKind | null;
  /** What a step can be made from. */
  readonly activities: readonly { readonly id: string; readonly title: string; readonly minutes: number }[];
}

export interface SendInput {
  /** Made by the composing page; the same key is never sent twice. */
  readonly key: string;
  readonly subject: string;
  readonly body: string;
  readonly reason: string;
  readonly recipients: readonly {
    readonly enrolmentId: number;
    readonly plan: readonly StepInput[] | null;
  }[];
}

export interface Sent {
  readonly messageId: number;
  readonly recipients: number;
  /** The message had been sent already: nothing was sent again. */
  readonly again: boolean;
}
