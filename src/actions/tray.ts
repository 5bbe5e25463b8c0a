'use server';
import * as yup from 'yup';
import { addToTray, clearTray } from '@/server/act/tray';
import { changes, courseCode, idNumber } from './run';

const pickInput = yup.object({
  code: courseCode,
  students: yup.array(idNumber).max(5000).required(),
  reason: yup.string().max(300).required(),
});

export const pickAction = changes(pickInput, (viewer, { code, students, reason }) =>
  addToTray(viewer, code, students, reason),
);

const dropInput = yup.object({
  code: courseCode,
  students: yup.array(idNumber).max(5000).nullable().defined(),
});

/** Takes students out of the tray; null empties it. */
export const dropAction = changes(dropInput, (viewer, { code, students }) =>
  clearTray(viewer, code, students),
);
