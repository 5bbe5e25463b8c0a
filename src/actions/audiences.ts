'use server';
import * as yup from 'yup';
import { audienceForm } from '@/core/forms/audience';
import { idNumber } from '@/core/forms/rules';
import { removeAudience, saveAudience } from '@/server/act/audiences';
import { traitCells } from '@/server/look/audiences';
import { asks, changes, courseCode, was } from './run';

const saveInput = audienceForm.shape({ code: courseCode, was });
export const saveAudienceAction = changes(saveInput, (viewer, { code, was: opened, ...form }) =>
  saveAudience(viewer, code, form, opened),
);

const removeInput = yup.object({ code: courseCode, id: idNumber });
export const removeAudienceAction = changes(removeInput, (viewer, { code, id }) =>
  removeAudience(viewer, code, id),
);

const cellsInput = yup.object({
  code: courseCode,
  keys: yup.array(yup.string().max(60).required()).max(60).required(),
});
/** The cells of traits that a condition has come to ask for. */
export const traitCellsAction = asks(cellsInput, (viewer, { code, keys }) => traitCells(viewer, code, keys));
