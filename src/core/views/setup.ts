import type { EnrolmentStatus } from '../course/kinds';
import type {
  ActivityForm,
  CategoryForm,
  CourseForm,
  GroupForm,
  OutcomeForm,
  SectionForm,
  StudentForm,
  TermForm,
} from '../forms/setup';
import type { WorkStatus } from '../gradebook/status';
import type { Finding } from '../setup/checkUp';
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

export interface SetupStudent extends StudentForm {
  readonly id: number;
  readonly name: string;
  readonly status: EnrolmentStatus;
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
