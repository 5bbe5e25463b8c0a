'use server';
import * as yup from 'yup';
import { bandsForm } from '@/core/forms/settings';
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
import { idNumber, maybeInstant, part } from '@/core/forms/rules';
import { asks, changes, courseCode, refresh, was } from './run';

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

export const gradeAction = asks(gradeInput, (viewer, { code, cells: list, pasted }) =>
  after(code, grade(viewer, code, list, pasted ? 'paste' : 'grade')),
);

const excuseInput = yup.object({ code: courseCode, cells, on: yup.boolean().required() });

export const excuseAction = asks(excuseInput, (viewer, { code, cells: list, on }) =>
  after(code, excuse(viewer, code, list, on)),
);

const extendInput = yup.object({
  code: courseCode,
  cells,
  due: maybeInstant,
});

export const extendAction = asks(extendInput, (viewer, { code, cells: list, due }) =>
  after(code, extend(viewer, code, list, due)),
);

const grantInput = yup.object({ code: courseCode, cells });

export const grantAttemptAction = asks(grantInput, (viewer, { code, cells: list }) =>
  after(code, grantAttempt(viewer, code, list)),
);

const undoInput = yup.object({ code: courseCode, batch: yup.string().uuid().required() });

export const undoGradesAction = changes(undoInput, (viewer, { code, batch }) =>
  undoBatch(viewer, code, batch),
);

const cellInput = yup.object({ code: courseCode, enrolmentId: idNumber, activityId: idNumber });

export const cellAction = asks(cellInput, (viewer, { code, enrolmentId, activityId }) =>
  cellView(viewer, code, enrolmentId, activityId),
);

const bandsInput = yup.object({ code: courseCode, bands: bandsForm, was });

export const bandsAction = changes(bandsInput, (viewer, { code, bands, was: opened }) =>
  saveBands(viewer, code, bands, opened),
);

const switchInput = yup.object({ code: courseCode, on: yup.boolean().required() });

export const showStandingAction = changes(switchInput, (viewer, { code, on }) =>
  showStanding(viewer, code, on),
);

export const hideStandingAction = changes(switchInput, (viewer, { code, on }) =>
  hideStanding(viewer, code, on),
);
