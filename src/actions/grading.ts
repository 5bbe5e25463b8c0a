'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import type { Changed } from '@/core/views/gradebook';
import { undoBatch } from '@/server/act/gradeChange';
import { cellView } from '@/server/look/cell';
import {
  excuse,
  extend,
  grade,
  grantAttempt,
  hideStanding,
  saveBands,
  showStanding,
} from '@/server/act/grade';
import { courseCode, idNumber, maybeInstant, part, run } from './run';

const refresh = (code: string) => revalidatePath(`/c/${code}`, 'layout');

const seen = part({ points: yup.number().nullable().defined(), excused: yup.boolean().required() });
const cell = part({ enrolmentId: idNumber, activityId: idNumber, seen });
const cells = yup.array(cell).min(1).max(5000).required();

/** Refreshes the views once something was changed, and hands the answer on. */
async function after(code: string, work: Promise<Changed>): Promise<Changed> {
  const changed = await work;
  if (changed.changed > 0) refresh(code);
  return changed;
}

const gradeInput = yup.object({
  code: courseCode,
  pasted: yup.boolean().required(),
  cells: yup
    .array(
      part({
        enrolmentId: idNumber,
        activityId: idNumber,
        seen,
        points: yup.number().min(0).max(1_000_000).nullable().defined(),
      }),
    )
    .min(1)
    .max(5000)
    .required(),
});

export async function gradeAction(input: yup.InferType<typeof gradeInput>) {
  return run(gradeInput, input, (viewer, { code, cells: list, pasted }) =>
    after(code, grade(viewer, code, list, pasted ? 'paste' : 'grade')),
  );
}

const excuseInput = yup.object({ code: courseCode, cells, on: yup.boolean().required() });

export async function excuseAction(input: yup.InferType<typeof excuseInput>) {
  return run(excuseInput, input, (viewer, { code, cells: list, on }) =>
    after(code, excuse(viewer, code, list, on)),
  );
}

const extendInput = yup.object({
  code: courseCode,
  cells,
  due: maybeInstant,
});

export async function extendAction(input: yup.InferType<typeof extendInput>) {
  return run(extendInput, input, (viewer, { code, cells: list, due }) =>
    after(code, extend(viewer, code, list, due)),
  );
}

const grantInput = yup.object({ code: courseCode, cells });

export async function grantAttemptAction(input: yup.InferType<typeof grantInput>) {
  return run(grantInput, input, (viewer, { code, cells: list }) =>
    after(code, grantAttempt(viewer, code, list)),
  );
}

const undoInput = yup.object({ code: courseCode, batch: yup.string().uuid().required() });

export async function undoGradesAction(input: yup.InferType<typeof undoInput>) {
  return run(undoInput, input, async (viewer, { code, batch }) => {
    const undone = await undoBatch(viewer, code, batch);
    refresh(code);
    return undone;
  });
}

const cellInput = yup.object({ code: courseCode, enrolmentId: idNumber, activityId: idNumber });

export async function cellAction(input: yup.InferType<typeof cellInput>) {
  return run(cellInput, input, (viewer, { code, enrolmentId, activityId }) =>
    cellView(viewer, code, enrolmentId, activityId),
  );
}

const per = (label: string) => yup.number().typeError(`${label}: write a number.`).min(0).max(100).required();
const cuts = part({ low: per('Low'), high: per('High') });
const bandsInput = yup.object({
  code: courseCode,
  bands: part({ practice: cuts, other: cuts }),
});

export async function bandsAction(input: yup.InferType<typeof bandsInput>) {
  return run(bandsInput, input, async (viewer, { code, bands }) => {
    await saveBands(viewer, code, bands);
    refresh(code);
  });
}

const switchInput = yup.object({ code: courseCode, on: yup.boolean().required() });

export async function showStandingAction(input: yup.InferType<typeof switchInput>) {
  return run(switchInput, input, async (viewer, { code, on }) => {
    await showStanding(viewer, code, on);
    refresh(code);
  });
}

export async function hideStandingAction(input: yup.InferType<typeof switchInput>) {
  return run(switchInput, input, async (viewer, { code, on }) => {
    await hideStanding(viewer, code, on);
    refresh(code);
  });
}
