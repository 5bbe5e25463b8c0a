'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { ENROLMENT_STATUSES } from '@/core/course/kinds';
import {
  activityForm,
  categoryForm,
  courseForm,
  groupForm,
  keyForm,
  newCourseForm,
  outcomeForm,
  sectionForm,
  studentForm,
  unitForm,
  type ActivityForm,
  type CategoryForm,
  type CourseForm,
  type GroupForm,
  type NewCourseForm,
  type OutcomeForm,
  type SectionForm,
  type StudentForm,
  type UnitForm,
} from '@/core/forms/setup';
import { newCourse, removeGroup, removeUnit, saveGroup, saveUnit } from '@/server/act/course/institution';
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
import { idNumber, maybeId, maybeInstant } from '@/core/forms/rules';
import { asks, changes, courseCode, named, refresh, run, trimmed, was } from './run';

const inCourse = yup.object({ code: courseCode, was });
const byId = yup.object({ code: courseCode, id: idNumber });

/** A form of a course, and what it held when it was opened. */
interface Edited<F> {
  readonly code: string;
  readonly form: F;
  readonly was: object | null;
}

/** Checks a form of the set-up and saves it. */
function saveForm<F>(
  schema: yup.Schema<F>,
  input: Edited<unknown>,
  save: (viewer: Viewer, code: string, form: F, was: object | null) => Promise<unknown>,
) {
  return run(inCourse, input, async (viewer, { code, was: opened }) => {
    await save(viewer, code, trimmed(await named(schema, input.form)), opened);
    refresh(code);
  });
}

const courseInput = yup.object({
  code: courseCode,
  form: courseForm,
  alsoIn: yup.array(courseCode).max(50).required(),
  was,
});
export async function saveCourseAction(input: Edited<CourseForm> & { alsoIn: readonly string[] }) {
  return run(courseInput, input, async (viewer, { code, form, alsoIn, was: opened }) => {
    await saveCourse(viewer, code, trimmed(form), alsoIn, opened);
    for (const changed of [code, ...alsoIn]) refresh(changed);
  });
}
export async function saveSectionAction(input: Edited<SectionForm>) {
  return saveForm(sectionForm, input, saveSection);
}
export async function saveCategoryAction(input: Edited<CategoryForm>) {
  return saveForm(categoryForm, input, saveCategory);
}
export async function saveActivityAction(input: Edited<ActivityForm>) {
  return saveForm(activityForm, input, saveActivity);
}
export async function saveOutcomeAction(input: Edited<OutcomeForm>) {
  return saveForm(outcomeForm, input, saveOutcome);
}
export async function saveGroupAction(input: Edited<GroupForm>) {
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
  was,
});
export async function saveStudentAction(input: Edited<StudentForm> & { person: string | null }) {
  return run(studentInput, input, async (viewer, { code, form, person, was: opened }) => {
    const saved = await saveStudent(viewer, code, trimmed(form), person, opened);
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

export async function newCourseAction(input: NewCourseForm) {
  return run(newCourseForm, input, (viewer, form) => newCourse(viewer, trimmed(form)));
}

const unitInput = unitForm.shape({ was });
export async function saveUnitAction(input: UnitForm & { readonly was: object | null }) {
  return run(unitInput, input, async (viewer, { was: opened, ...unit }) => {
    const saved = await saveUnit(viewer, trimmed(unit), opened);
    revalidatePath('/c', 'layout');
    return saved;
  });
}

const keyInput = keyForm.shape({ code: courseCode });
export const createKeyAction = changes(keyInput, (viewer, { code, label }) =>
  createCredential(viewer, code, label.trim()),
);
export const revokeKeyAction = changes(byId, (viewer, { code, id }) => revokeCredential(viewer, code, id));

export const eraseStudentAction = changes(byId, (viewer, { code, id }) => eraseStudent(viewer, code, id));
