'use server';
import * as yup from 'yup';
import { KEPT } from '@/core/acts/agreement';
import { dayText, idNumber } from '@/core/forms/rules';
import { passingForm } from '@/core/forms/note';
import { reviewForm } from '@/core/forms/review';
import { helpingForm } from '@/core/forms/talk';
import { closeFollowUp, moveFollowUp } from '@/server/act/followUps';
import { askForHelp, closeHelping } from '@/server/act/helpings';
import { addPassing, closeAgreement } from '@/server/act/notes';
import { setReviewTime } from '@/server/act/reviewTime';
import { changes, courseCode } from './run';

const closeInput = yup.object({ code: courseCode, id: idNumber, closed: yup.boolean().required() });
/** Closes a follow-up, or opens it again. */
export const closeFollowUpAction = changes(closeInput, (viewer, { code, id, closed }) =>
  closeFollowUp(viewer, code, id, closed),
);

const moveInput = yup.object({ code: courseCode, id: idNumber, on: dayText });
/** Sets another day to look again. */
export const moveFollowUpAction = changes(moveInput, (viewer, { code, id, on }) =>
  moveFollowUp(viewer, code, id, on),
);

const agreementInput = yup.object({
  code: courseCode,
  id: idNumber,
  as: yup
    .string()
    .oneOf([...KEPT])
    .nullable()
    .defined(),
});
/** Says what became of what was agreed; null opens it again. */
export const closeAgreementAction = changes(agreementInput, (viewer, { code, id, as }) =>
  closeAgreement(viewer, code, id, as),
);

const passingInput = passingForm.shape({ code: courseCode });
/** Keeps a word in passing, once however often it is sent. */
export const passingAction = changes(passingInput, (viewer, { code, ...form }) =>
  addPassing(viewer, code, form),
);

const reviewInput = yup.object({ code: courseCode, time: reviewForm.nullable().defined() });
/** Sets the weekly time for a course; null for none. */
export const reviewTimeAction = changes(reviewInput, (viewer, { code, time }) =>
  setReviewTime(viewer, code, time),
);

const helpInput = helpingForm.shape({ code: courseCode });
/** Asks one student to help another. */
export const askForHelpAction = changes(helpInput, (viewer, { code, ...form }) =>
  askForHelp(viewer, code, form),
);

const endInput = yup.object({ code: courseCode, id: idNumber });
/** Ends what was asked or agreed between two students. */
export const closeHelpingAction = changes(endInput, (viewer, { code, id }) => closeHelping(viewer, id, code));
