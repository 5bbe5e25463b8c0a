'use server';
import * as yup from 'yup';
import { designForm } from '@/core/forms/design';
import { accommodationForm, giveForm, removeGivenForm } from '@/core/forms/give';
import { idNumber, maybeDay, maybeId } from '@/core/forms/rules';
import { DESIGN_STATES } from '@/core/plans/design';
import { SECTION_MARKS, type SectionMark } from '@/core/plans/preCheck';
import { saveAccommodation } from '@/server/act/accommodations';
import { giveChoices, giveTo, previewGive, removeGiven, undoGiven } from '@/server/act/give';
import { releaseDesign, removeDesign, saveDesign, switchDesign, tryDesign } from '@/server/plans/designs';
import { keepStepDay } from '@/server/plans/pins';
import { asks, changes, courseCode, was } from './run';

const saveInput = yup.object({ code: courseCode, id: maybeId.defined(), design: designForm, was });

/** Keeps a plan design. */
export const saveDesignAction = changes(saveInput, (viewer, { code, id, design, was: opened }) =>
  saveDesign(viewer, code, id, design, opened),
);

const ofDesign = yup.object({ code: courseCode, id: idNumber });
const switchInput = ofDesign.shape({
  state: yup
    .string()
    .oneOf([...DESIGN_STATES])
    .required(),
});

/** Switches a plan design on or off. */
export const switchDesignAction = changes(switchInput, (viewer, { code, id, state }) =>
  switchDesign(viewer, code, id, state),
);

/** Hands out what is ready. */
export const releaseDesignAction = changes(ofDesign, (viewer, { code, id }) =>
  releaseDesign(viewer, code, id),
);

/** Removes a plan design; what was handed out stays. */
export const removeDesignAction = changes(ofDesign, (viewer, { code, id }) => removeDesign(viewer, code, id));

const tryInput = yup.object({
  code: courseCode,
  design: designForm,
  percent: yup.number().min(0, 'A score is 0 or more.').max(1000).nullable().defined(),
  mark: yup
    .mixed<SectionMark>((v): v is SectionMark => SECTION_MARKS.some((m) => m === v))
    .nullable()
    .defined(),
});

/** What a student with a score would get. */
export const tryDesignAction = asks(tryInput, (viewer, { code, design, percent, mark }) =>
  tryDesign(viewer, code, design, { percent, mark: mark ?? null }),
);

const pinInput = yup.object({ code: courseCode, step: idNumber, on: maybeDay });

/** Keeps a step of somebody's plan on a day, or lets it move again. */
export const keepStepDayAction = changes(pinInput, (viewer, { code, step, on }) =>
  keepStepDay(viewer, code, step, on),
);

const ofCourse = yup.object({ code: courseCode });

/** What can be assigned, and to whom. */
export const giveChoicesAction = asks(ofCourse, (viewer, { code }) => giveChoices(viewer, code));

const giveInput = yup.object({ code: courseCode, form: giveForm });

/** What assigning something would do. */
export const previewGiveAction = asks(giveInput, (viewer, { code, form }) => previewGive(viewer, code, form));

/** Assigns activities to students. */
export const giveAction = changes(giveInput, (viewer, { code, form }) => giveTo(viewer, code, form));

const removeInput = yup.object({ code: courseCode, form: removeGivenForm });

/** Removes from students what was assigned to them by name. */
export const removeGivenAction = changes(removeInput, (viewer, { code, form }) =>
  removeGiven(viewer, code, form),
);

const batchInput = yup.object({ code: courseCode, batch: idNumber });

/** Undoes an assigning or a removing. */
export const undoGivenAction = changes(batchInput, (viewer, { code, batch }) =>
  undoGiven(viewer, code, batch),
);

const accommodationInput = yup.object({ code: courseCode, form: accommodationForm, was });

/** Keeps what a student gets beyond the others. */
export const accommodationAction = changes(accommodationInput, (viewer, { code, form, was: opened }) =>
  saveAccommodation(viewer, code, form, opened),
);
