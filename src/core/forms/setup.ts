import { ATTEMPT_POLICIES, type AttemptPolicy } from '../gradebook/attemptPolicy';
import * as yup from 'yup';
import { isZone } from '../calendar/zone';
import { parseEmail } from '../course/email';
import { ACTIVITY_KINDS } from '../course/kinds';
import { CODE_RULE, isCourseCode } from '../setup/courseCode';
import { dayText, idNumber, maybeId, maybeInstant, name, number, part, whole } from './rules';

const term = {
  termName: name('The name of the term', 80),
  zone: name('The time zone', 60).test(
    'zone',
    ({ value }) => `“${value}” is not a time zone like Europe/Lisbon.`,
    (text) => isZone(text.trim()),
  ),
  termStart: dayText,
  termWeeks: whole('Weeks', 1, 60),
  breaks: yup
    .array(part({ name: name('The name of a break', 80), from: dayText, to: dayText }))
    .max(20, 'A term has at most 20 breaks.')
    .required(),
};
/** The term of a course: several courses may have the same. */
export const termForm = part(term);
export type TermForm = yup.InferType<typeof termForm>;

export const courseForm = part({
  title: name('The title'),
  ...term,
  unitId: maybeId,
  missing: yup
    .string()
    .oneOf(['zero', 'ignore'] as const)
    .required(),
  /** Which of several attempts counts; null to leave it as graded. */
  attempts: yup
    .mixed<AttemptPolicy>((v): v is AttemptPolicy => ATTEMPT_POLICIES.some((p) => p === v))
    .nullable()
    .defined(),
});
export type CourseForm = yup.InferType<typeof courseForm>;

/** A course that is made from a form: its code, its title, its term. */
export const newCourseForm = yup.object({
  code: yup
    .string()
    .required('The code is empty.')
    .test('code', CODE_RULE, (text) => isCourseCode(text.trim())),
  title: name('The title'),
  ...term,
});
export type NewCourseForm = yup.InferType<typeof newCourseForm>;

const hour = {
  startMinute: whole('The hour', 0, 1439),
  minutes: whole('Minutes', 1, 1440),
};
export const sectionForm = part({
  id: maybeId,
  name: name('The name', 80),
  meetings: yup
    .array(part({ weekday: whole('The weekday', 1, 7), ...hour }))
    .max(20, 'A section meets at most 20 times a week.')
    .required(),
  exceptions: yup
    .array(part({ on: dayText, instead: yup.object(hour).nullable().defined().default(null) }))
    .max(100, 'A section has at most 100 exceptions.')
    .required(),
});
export type SectionForm = yup.InferType<typeof sectionForm>;

export const categoryForm = part({
  id: maybeId,
  name: name('The name', 80),
  weight: number('The weight', 0, 1000),
  dropLowest: whole('How many are dropped', 0, 100),
});
export type CategoryForm = yup.InferType<typeof categoryForm>;

export const activityForm = part({
  id: maybeId,
  title: name('The title'),
  kind: yup
    .string()
    .oneOf([...ACTIVITY_KINDS])
    .required(),
  categoryId: maybeId,
  points: number('Points', 0, 100_000).nullable(),
  opens: maybeInstant,
  due: maybeInstant,
  closes: maybeInstant,
  attempts: whole('Attempts', 1, 1000).nullable(),
  minutes: whole('Minutes', 0, 10_000).nullable(),
  outcomeIds: yup.array(idNumber).max(500).required(),
});
export type ActivityForm = yup.InferType<typeof activityForm>;

export const outcomeForm = part({
  id: maybeId,
  title: name('The title'),
  parentId: maybeId,
  /** Ids of the outcomes that come before. */
  before: yup.array(idNumber).max(500).required(),
});
export type OutcomeForm = yup.InferType<typeof outcomeForm>;

export const groupForm = part({
  id: maybeId,
  name: name('The name', 80),
  memberIds: yup.array(idNumber).max(5000).required(),
  staffIds: yup.array(yup.string().max(100).required()).max(100).required(),
});
export type GroupForm = yup.InferType<typeof groupForm>;

/** What is on record about a student; `id` is their place in the course, `externalId` the `student_id` of files. */
export const studentForm = part({
  id: maybeId,
  externalId: name('The id'),
  given: name('The given name'),
  family: name('The family name'),
  email: yup
    .string()
    .nullable()
    .defined()
    .test('address', 'That is not an e-mail address.', (v) => v == null || parseEmail(v.trim()).ok),
  sectionId: maybeId,
});
export type StudentForm = yup.InferType<typeof studentForm>;

export const unitForm = yup.object({ id: maybeId, name: name('The name', 120), parentId: maybeId });
export type UnitForm = yup.InferType<typeof unitForm>;

/** A key for a system that sends statements. */
export const keyForm = yup.object({ label: name('What it is for', 80) });
