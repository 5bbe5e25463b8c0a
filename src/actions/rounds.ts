'use server';
import * as yup from 'yup';
import { seenForm } from '@/core/forms/note';
import { ROUND_FILTERS } from '@/core/views/rounds';
import { keepPosition, markSeen, putOff, undoAnswer } from '@/server/act/answers';
import { dayText, idNumber } from '@/core/forms/rules';
import { asks, changes, courseCode } from './run';

const putOffInput = yup.object({ code: courseCode, student: idNumber, until: dayText });

export const putOffAction = changes(putOffInput, (viewer, { code, student, until }) =>
  putOff(viewer, code, student, until),
);

const seenInput = seenForm.shape({ code: courseCode, student: idNumber });

export const markSeenAction = changes(seenInput, (viewer, { code, student, reason }) =>
  markSeen(viewer, code, student, reason.trim()),
);

const undoInput = yup.object({ code: courseCode, mark: idNumber });

export const undoMarkAction = changes(undoInput, (viewer, { code, mark }) => undoAnswer(viewer, code, mark));

const placeInput = yup.object({
  code: courseCode,
  student: idNumber.nullable().defined(),
  filter: yup
    .string()
    .oneOf([...ROUND_FILTERS])
    .required(),
});

/** Keeps where somebody is in Rounds, so that a reload or another device goes on there. */
export const keepPlaceAction = asks(placeInput, (viewer, { code, student, filter }) =>
  keepPosition(viewer, code, { enrolmentId: student, filter }),
);
