import type { Agreement } from '../acts/agreement';
import type { CheckIn } from '../acts/checkIn';
import type { OwnHelping } from '../acts/helping';
import type { WorkStatus } from '../gradebook/status';
import type { MessageDoc } from '../messages/doc';
import type { Instant, LocalDate, Percent } from '../units';
import type { OwnAssignment } from './assignment';
import type { OutcomeView, StripWeek } from './brief';
import type { ReplyView } from './conversation';
import type { CourseHead } from './courseHead';
import type { StudyTimes } from '../plans/replan';
import type { PlanView } from '../plans/plan';
import type { OwnCheck } from './session';
import type { OwnTalk, TalkOffer } from './talks';

export interface OwnMessage {
  readonly recipientId: number;
  readonly subject: string;
  readonly doc: MessageDoc;
  readonly from: string;
  /** The sender's account: a display name is their own choice. */
  readonly address: string;
  readonly at: Instant;
  readonly readAt: Instant | null;
  /** What they answered to it. */
  readonly answers: readonly ReplyView[];
  /** Why they got it, in one plain line, where the sender lets them read it. */
  readonly why: string | null;
  /** Whether it offers a time for a talk. */
  readonly offersTalk: boolean;
}

/** The last meeting of one's section, and what one did in it. */
export interface OwnMeeting {
  readonly from: Instant;
  readonly until: Instant;
  readonly running: boolean;
  readonly check: OwnCheck;
}

export interface OwnWork {
  readonly id: number;
  readonly title: string;
  readonly points: number | null;
  readonly due: Instant | null;
  readonly status: WorkStatus;
}

export interface OwnCourse {
  readonly head: CourseHead;
  readonly today: LocalDate;
  readonly weeks: readonly StripWeek[];
  readonly standing: Percent | null;
  readonly messages: readonly OwnMessage[];
  readonly plans: readonly PlanView[];
  /** When they learn. */
  readonly studyTimes: StudyTimes;
  /** Talks they have, and what they can take. */
  readonly talks: readonly OwnTalk[];
  readonly offers: readonly TalkOffer[];
  readonly agreements: readonly Agreement[];
  readonly helpings: readonly OwnHelping[];
  /** What they said last of how it goes. */
  readonly checkIn: CheckIn | null;
  readonly active: boolean;
  /** Null where the section has not met in the last week. */
  readonly meeting: OwnMeeting | null;
  /** Somebody put them into the course who does not see their address before they accept. */
  readonly toAccept: boolean;
  /** Missing, and due in the next two weeks. */
  readonly open: readonly OwnWork[];
  readonly assignments: readonly OwnAssignment[];
  /** What they could do next, in a sentence. */
  readonly next: string | null;
  readonly outcomes: readonly OwnOutcome[];
  /** Quizzes whose keys they may see. */
  readonly disclosed: readonly { readonly id: number; readonly title: string }[];
  readonly assigned: readonly OwnAssigned[];
  readonly retries: readonly OwnRetry[];
  readonly reviews: readonly OwnReview[];
  /** Whether items can be read aloud to them. */
  readonly readAloud: boolean;
}

/** Something that was assigned to them by name. */
export interface OwnAssigned {
  readonly id: number;
  readonly title: string;
  /** When it opens, if it is not open yet. */
  readonly opens: Instant | null;
  readonly due: Instant | null;
}

/** A quiz that can be tried again, and what to go over before. */
export interface OwnRetry {
  readonly id: number;
  readonly title: string;
  readonly first: Percent | null;
  readonly best: Percent;
  readonly made: number;
  /** Attempts that are left; null for as many as one likes. */
  readonly left: number | null;
  readonly goOver: readonly { readonly id: number; readonly title: string; readonly minutes: number }[];
}

/** An outcome that is due for review, and when it was last asked, in words. */
export interface OwnReview {
  readonly id: number;
  readonly title: string;
  readonly asked: string;
}

/** An outcome with what it rests on, and what would move it. */
export interface OwnOutcome extends OutcomeView {
  readonly movers: readonly string[];
  readonly rests: readonly { readonly id: number; readonly title: string; readonly words: string }[];
}

export interface StudentHome {
  readonly givenName: string;
  /** Whether they get messages as e-mail too. */
  readonly mailCopies: boolean;
  readonly courses: readonly OwnCourse[];
}
