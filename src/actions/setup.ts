'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { CODE_RULE, isCourseCode } from '@/core/setup/courseCode';
import { parseEmail } from '@/core/course/email';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '@/core/course/kinds';
import type {
  ActivityForm,
  CategoryForm,
  CourseForm,
  GroupForm,
  OutcomeForm,
  SectionForm,
  StudentForm,
} from '@/core/views/setup';
import {
  newCourse,
  removeGroup,
  removeUnit,
  saveGroup,
  saveUnit,
  type NewCourseForm,
} from '@/server/act/course/institution';
import {
  archiveCourse,
  dueEffect,
  removeActivity,
  removeCategory,
  removeOutcome,
  removeSection,
  saveActivity,
  saveCategory,
  saveCourse,
  saveOutcome,
  saveSection,
} from '@/server/act/course/parts';
import { saveStudent } from '@/server/act/course/student';
import { joinCourse, moveStudents, setJoinCode, setStatus } from '@/server/act/course/students';
import { eraseStudent } from '@/server/export/student';
import type { Viewer } from '@/server/access/viewer';
import { createCredential, revokeCredential } from '@/server/xapi/credentials';
import { asks, changes, courseCode, dayText, idNumber, maybeInstant, part, refresh, run } from './run';

const maybeId = idNumber.nullable().defined();
const name = (what: string, most = 200) =>
  yup
    .string()
    .max(most, `${what} is longer than ${most} characters.`)
    .required(`${what} is empty.`)
    .test('blank', `${what} is empty.`, (v) => v.trim() !== '');
const number = (what: string, least: number, most: number) =>
  yup
    .number()
    .typeError(`${what} is not a number.`)
    .min(least, `${what} is under ${least}.`)
    .max(most, `${what} is over ${most.toLocaleString('en')}.`);
const whole = (what: string, least: number, most: number) =>
  number(what, least, most).integer(`${what} must be whole.`);

const term = {
  termName: name('The name of the term', 80),
  zone: name('The time zone', 60),
  termStart: dayText,
  termWeeks: whole('The number of weeks', 1, 60).required(),
  breaks: yup
    .array(part({ name: name('The name of a break', 80), from: dayText, to: dayText }))
    .max(20)
    .required(),
};
const courseForm = part({
  title: name('The title'),
  ...term,
  unitId: maybeId,
  missing: yup.string().oneOf(['zero', 'ignore']).required(),
});
const hour = {
  startMinute: whole('The hour', 0, 1439).required(),
  minutes: whole('The minutes', 1, 1440).required(),
};
const sectionForm = part({
  id: maybeId,
  name: name('The name', 80),
  meetings: yup
    .array(part({ weekday: whole('The weekday', 1, 7).required(), ...hour }))
    .max(20)
    .required(),
  exceptions: yup
    .array(part({ on: dayText, instead: yup.object(hour).nullable().defined().default(null) }))
    .max(100)
    .required(),
});
const categoryForm = part({
  id: maybeId,
  name: name('The name', 80),
  weight: number('The weight', 0, 1000).required('The weight is empty.'),
  dropLowest: whole('How many are dropped', 0, 100).required(),
});
const activityForm = part({
  id: maybeId,
  title: name('The title'),
  kind: yup
    .string()
    .oneOf([...ACTIVITY_KINDS])
    .required(),
  categoryId: maybeId,
  points: number('Points', 0, 100_000).nullable().defined(),
  opens: maybeInstant,
  due: maybeInstant,
  closes: maybeInstant,
  attempts: whole('Attempts', 1, 1000).nullable().defined(),
  minutes: whole('Minutes', 0, 10_000).nullable().defined(),
  outcomeIds: yup.array(idNumber).max(500).required(),
});
const outcomeForm = part({
  id: maybeId,
  title: name('The title'),
  parentId: maybeId,
  before: yup.array(idNumber).max(500).required(),
});
const groupForm = part({
  id: maybeId,
  name: name('The name', 80),
  memberIds: yup.array(idNumber).max(5000).required(),
  staffIds: yup.array(yup.string().max(100).required()).max(100).required(),
});

const studentForm = part({
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

const inCourse = yup.object({ code: courseCode });
const byId = yup.object({ code: courseCode, id: idNumber });

/** Text without blanks around it, wherever it stands in a checked form. */
function trimmed<T>(value: T): T {
  const mend = (v: unknown): unknown => {
    if (typeof v === 'string') return v.trim();
    if (Array.isArray(v)) return v.map(mend);
    if (typeof v !== 'object' || v === null) return v;
    return Object.fromEntries(Object.entries(v).map(([k, inner]: [string, unknown]) => [k, mend(inner)]));
  };
  return mend(value) as T;
}

/** Checks a form of the set-up and saves it. */
function saveForm<F>(
  schema: yup.Schema<F>,
  input: { readonly code: string; readonly form: unknown },
  save: (viewer: Viewer, code: string, form: F) => Promise<unknown>,
) {
  return run(inCourse, input, async (viewer, { code }) => {
    await save(viewer, code, trimmed(await schema.validate(input.form, { strict: true })));
    refresh(code);
  });
}

const courseInput = yup.object({
  code: courseCode,
  form: courseForm,
  alsoIn: yup.array(courseCode).max(50).required(),
});
export async function saveCourseAction(input: { code: string; form: CourseForm; alsoIn: readonly string[] }) {
  return run(courseInput, input, async (viewer, { code, form, alsoIn }) => {
    await saveCourse(viewer, code, trimmed(form), alsoIn);
    for (const changed of [code, ...alsoIn]) refresh(changed);
  });
}
export async function saveSectionAction(input: { code: string; form: SectionForm }) {
  return saveForm(sectionForm, input, saveSection);
}
export async function saveCategoryAction(input: { code: string; form: CategoryForm }) {
  return saveForm(categoryForm, input, saveCategory);
}
export async function saveActivityAction(input: { code: string; form: ActivityForm }) {
  return saveForm(activityForm, input, saveActivity);
}
export async function saveOutcomeAction(input: { code: string; form: OutcomeForm }) {
  return saveForm(outcomeForm, input, saveOutcome);
}
export async function saveGroupAction(input: { code: string; form: GroupForm }) {
  return saveForm(groupForm, input, saveGroup);
}

const REMOVE = {
  section: removeSection,
  category: removeCategory,
  activity: removeActivity,
  outcome: removeOutcome,
} as const;
const removeInput = byId.shape({
  what: yup.string().oneOf(['section', 'category', 'activity', 'outcome', 'group', 'unit']).required(),
});
export async function removeAction(input: yup.InferType<typeof removeInput>) {
  return run(removeInput, input, async (viewer, { code, id, what }) => {
    if (what === 'group') await removeGroup(viewer, id);
    else if (what === 'unit') await removeUnit(viewer, id);
    else await REMOVE[what](viewer, code, id);
    refresh(code);
  });
}

const dueInput = yup.object({ code: courseCode, id: idNumber, due: maybeInstant });
export const dueEffectAction = asks(dueInput, (viewer, { code, id, due }) =>
  dueEffect(viewer, code, id, due),
);

const studentInput = yup.object({
  code: courseCode,
  form: studentForm,
  person: yup.string().max(1000).nullable().defined(),
});
export async function saveStudentAction(input: { code: string; form: StudentForm; person: string | null }) {
  return run(studentInput, input, async (viewer, { code, form, person }) => {
    const saved = await saveStudent(viewer, code, trimmed(form), person);
    refresh(code);
    return saved;
  });
}

const ids = yup.array(idNumber).min(1, 'Choose at least one student.').max(5000).required();
const moveInput = yup.object({ code: courseCode, ids, sectionId: maybeId });
export const moveStudentsAction = changes(moveInput, (viewer, { code, ids: list, sectionId }) =>
  moveStudents(viewer, code, list, sectionId),
);
const statusInput = yup.object({
  code: courseCode,
  ids,
  status: yup
    .string()
    .oneOf([...ENROLMENT_STATUSES])
    .required(),
});
export const setStatusAction = changes(statusInput, (viewer, { code, ids: list, status }) =>
  setStatus(viewer, code, list, status),
);

const switchInput = yup.object({ code: courseCode, on: yup.boolean().required() });
export const joinCodeAction = changes(switchInput, (viewer, { code, on }) => setJoinCode(viewer, code, on));
export const archiveCourseAction = changes(switchInput, (viewer, { code, on }) =>
  archiveCourse(viewer, code, on),
);

const joinInput = yup.object({ joinCode: yup.string().max(40).required('Type the code of the course.') });
export async function joinCourseAction(input: yup.InferType<typeof joinInput>) {
  return run(joinInput, input, async (viewer, { joinCode }) => {
    const title = await joinCourse(viewer, joinCode);
    revalidatePath('/home');
    return title;
  });
}

const newInput = yup.object({
  code: yup
    .string()
    .required('The code is empty.')
    .test('code', CODE_RULE, (text) => isCourseCode(text)),
  title: name('The title'),
  ...term,
});
export async function newCourseAction(input: NewCourseForm) {
  return run(newInput, input, (viewer, form) => newCourse(viewer, trimmed(form)));
}

const unitInput = yup.object({ id: maybeId, name: name('The name', 120), parentId: maybeId });
export async function saveUnitAction(input: yup.InferType<typeof unitInput>) {
  return run(unitInput, input, async (viewer, unit) => {
    const saved = await saveUnit(viewer, trimmed(unit));
    revalidatePath('/c', 'layout');
    return saved;
  });
}

const keyInput = yup.object({ code: courseCode, label: name('What it is for', 80) });
export const createKeyAction = changes(keyInput, (viewer, { code, label }) =>
  createCredential(viewer, code, label.trim()),
);
export const revokeKeyAction = changes(byId, (viewer, { code, id }) => revokeCredential(viewer, code, id));

export const eraseStudentAction = changes(byId, (viewer, { code, id }) => eraseStudent(viewer, code, id));
