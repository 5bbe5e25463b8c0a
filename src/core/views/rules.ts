import type { About } from '../acts/pick';
import type { ClassAbout } from '../people/traitAbout';
import type { RuleForm } from '../forms/rule';
import type { Guards } from '../unasked/guards';
import type { RuleSwitch } from '../unasked/states';
import type { Instant, LocalDate } from '../units';
import type { CourseHead } from './courseHead';
import type { CourseLogLine } from './courseLog';

/** A rule as its view shows it. */
export interface RuleLine {
  readonly id: number;
  readonly form: RuleForm;
  readonly state: RuleSwitch;
  /** Why it paused by itself. */
  readonly why: string | null;
  /** In whose name it writes. */
  readonly by: string;
  readonly own: boolean;
  readonly since: Instant | null;
  /** Since when the data are too old for it, in words; null if they are not. */
  readonly stale: string | null;
  readonly sent: number;
  readonly held: number;
  readonly words: number;
}

/** An occasion of a rule with what became of it. */
export interface OccasionLine {
  readonly id: number;
  readonly ruleId: number;
  readonly rule: string;
  readonly enrolmentId: number;
  readonly name: string;
  readonly at: Instant;
  /** The assignment it is about. */
  readonly assignment: { readonly id: number; readonly title: string } | null;
  /** The numbers of that moment, in words. */
  readonly facts: readonly string[];
  readonly state: 'waiting' | 'to go' | 'sent' | 'held' | 'declined' | 'word' | 'done';
  /** Why it was held back, in words. */
  readonly why: string | null;
  readonly goesAt: Instant | null;
  readonly messageId: number | null;
}

/** A message that waits for a yes, with its text. */
export interface WaitingLine extends OccasionLine {
  readonly subject: string;
  readonly text: string;
  /** Why it cannot go as it stands. */
  readonly fault: string | null;
}

/** A word to the instructor, with what went wrong. */
export interface WordLine extends OccasionLine {
  readonly about: About;
  /** The outcomes that they need most, of those it is about. */
  readonly weakest: readonly string[];
  readonly wrong: readonly { readonly item: string; readonly answer: string }[];
}

export interface RulesView {
  readonly course: CourseHead;
  readonly tray: readonly number[];
  readonly trayFrom: string | null;
  readonly about: ClassAbout;
  readonly rules: readonly RuleLine[];
  readonly waiting: readonly WaitingLine[];
  readonly words: readonly WordLine[];
  readonly log: readonly OccasionLine[];
  /** Changes of the order and the limits, which all who teach the course share. */
  readonly changes: readonly CourseLogLine[];
  /** How many lines to ask for to see what was before these; null if that is all. */
  readonly moreLogged: number | null;
  readonly guards: Guards;
}

/** One thing that a rule would have done. */
export interface DryRunLine {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly name: string;
  readonly at: Instant;
  /** Why it would have been held back, in words; null if it would have gone. */
  readonly held: string | null;
  readonly facts: readonly string[];
  readonly subject: string;
  readonly text: string;
}

/** What a rule would have done in the weeks gone by. */
export interface DryRun {
  readonly from: LocalDate;
  readonly to: LocalDate;
  readonly weeks: readonly {
    readonly week: number;
    readonly messages: number;
    readonly students: number;
    readonly held: number;
  }[];
  readonly messages: number;
  readonly students: number;
  readonly held: number;
  /** The latest first; not more than can be read. */
  readonly lines: readonly DryRunLine[];
  readonly more: number;
}
