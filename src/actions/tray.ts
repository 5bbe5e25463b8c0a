'use server';
import * as yup from 'yup';
import { addToTray, clearTray } from '@/server/act/tray';
import { idNumber, part } from '@/core/forms/rules';
import { about, changes, courseCode } from './run';

const pickInput = yup.object({
  code: courseCode,
  picks: yup
    .array(
      part({
        students: yup.array(idNumber).max(5000).required(),
        reason: yup.string().max(300).required(),
        about,
        activityId: idNumber.nullable().defined(),
        item: yup.string().max(200).nullable().defined(),
      }),
    )
    .max(500)
    .required(),
  source: yup.string().max(60).defined(),
  anew: yup.boolean().required(),
});

export const pickAction = changes(pickInput, (viewer, { code, picks, source, anew }) =>
  addToTray(viewer, code, picks, { source, anew }),
);

const dropInput = yup.object({
  code: courseCode,
  students: yup.array(idNumber).max(5000).nullable().defined(),
});

/** Removes students from the tray; null empties it. */
export const dropAction = changes(dropInput, (viewer, { code, students }) =>
  clearTray(viewer, code, students),
);
