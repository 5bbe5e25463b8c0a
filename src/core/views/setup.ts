import type { Meeting, MeetingException } from '../calendar/meetings';
import type { Break } from '../calendar/term';
import type { ActivityKind, EnrolmentStatus } from '../course/kinds';
import type { WorkStatus } from '../gradebook/status';
import type { Finding } from '../setup/checkUp';
import type { Instant, LocalDate } from '../units';
import type { CourseHead } from './courseHead';
import type { CredentialView } from './live';

export const SETUP_PARTS = [
  'check',
  'course',
  'sections',
  'work',
  'outcomes',
  'students',
  'groups',
  'sources',
] as const;
export type SetupPart = (typeof SETUP_PARTS)[number];

/** The term of a course: several courses may have the same. */
export interface TermForm {
  readonly termName: string;
  readonly zone: string;
  readonly termStart: LocalDate;
  readonly termWeeks: number;
  readonly breaks: readonly Break[];
}
export interface CourseForm extends TermForm {
  readonly title: string;
  readonly unitId: number | null;
  readonly missing: 'zero' | 'ignore';
}
export interface SectionForm {
  readonly id: number | null;
  readonly name: string;
  readonly meetings: readonly Meeting[];
  readonly exceptions: readonly MeetingException[];
}
export interface CategoryForm {
  readonly id: number | null;
  readonly name: string;
  readonly weight: number;
  readonly dropLowest: number;
}
export interface ActivityForm {
  readonly id: number | null;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly categoryId: number | null;
  readonly points: number | null;
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
  readonly attempts: number | null;
  readonly minutes: number | null;
  readonly outcomeIds: readonly number[];
}
export interface OutcomeForm {
  readonly id: number | null;
  readonly title: string;
  readonly parentId: number | null;
  /** Ids of the outcomes that come before. */
  readonly before: readonly number[];
}
/** What is on record about a student; `id` is their place in the course. */
export interface StudentForm {
  readonly id: number | null;
  /** The `student_id` of files. */
  readonly externalId: string;
  readonly given: string;
  readonly family: string;
  readonly email: string | null;
  readonly sectionId: number | null;
}
export interface SetupStudent extends StudentForm {
  readonly id: number;
  readonly name: string;
  readonly status: EnrolmentStatus;
}
export interface GroupForm {
  readonly id: number | null;
  readonly name: string;
  readonly memberIds: readonly number[];
  readonly staffIds: readonly string[];
}
export interface UnitRow {
  readonly id: number;
  readonly name: string;
  readonly parentId: number | null;
}

/** Everything the set-up of a course shows. */
export interface SetupView {
  readonly course: CourseHead;
  readonly archived: boolean;
  readonly joinCode: string | null;
  readonly form: CourseForm;
  readonly units: readonly UnitRow[];
  /** Terms of the viewer's other courses that differ from this one's. */
  readonly terms: readonly (TermForm & { readonly courses: readonly string[] })[];
  /** Codes of the viewer's other courses that have the very term of this one. */
  readonly sameTerm: readonly string[];
  readonly sections: readonly SectionForm[];
  readonly categories: readonly CategoryForm[];
  readonly activities: readonly ActivityForm[];
  readonly outcomes: readonly OutcomeForm[];
  readonly students: readonly SetupStudent[];
  readonly groups: readonly GroupForm[];
  /** Students of all the viewer's courses, for groups across them. */
  readonly everybody: readonly { readonly id: number; readonly name: string; readonly course: string }[];
  readonly staff: readonly { readonly id: string; readonly name: string }[];
  readonly keys: readonly CredentialView[];
  readonly findings: readonly Finding[];
}

/** What another due instant would do, before it is done. */
export interface DueEffect {
  readonly changes: readonly { readonly name: string; readonly from: WorkStatus; readonly to: WorkStatus }[];
}
