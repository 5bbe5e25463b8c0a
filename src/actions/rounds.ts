'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { ROUND_FILTERS } from '@/core/views/rounds';
import { keepPosition, markSeen, putOff, undoAnswer } from '@/server/act/answers';
import { courseCode, dayText, idNumber, run } from './run';

const refresh = (code: string) => revalidatePath(`/c/${code}`, 'layout');

const putOffInput = yup.object({ code: courseCode, student: idNumber, until: dayText });

export async function putOffAction(input: yup.InferType<typeof putOffInput>) {
  return run(putOffInput, input, async (viewer, { code, student, until }) => {
    const mark = await putOff(viewer, code, student, until);
    refresh(code);
    return mark;
  });
}

const seenInput = yup.object({
  code: courseCode,
  student: idNumber,
  reason: yup
    .string()
    .trim()
    .max(500, 'Keep the reason under 500 characters.')
    .required('Say in a word why.'),
});

export async function markSeenAction(input: yup.InferType<typeof seenInput>) {
  return run(seenInput, input, async (viewer, { code, student, reason }) => {
    const mark = await markSeen(viewer, code, student, reason);
    refresh(code);
    return mark;
  });
}

const undoInput = yup.object({ code: courseCode, mark: idNumber });

export async function undoMarkAction(input: yup.InferType<typeof undoInput>) {
  return run(undoInput, input, async (viewer, { code, mark }) => {
    await undoAnswer(viewer, code, mark);
    refresh(code);
  });
}

const placeInput = yup.object({
  code: courseCode,
  student: idNumber.nullable().defined(),
  filter: yup
    .string()
    .oneOf([...ROUND_FILTERS])
    .required(),
});

/** Keeps where somebody is in Rounds, so that a reload or another device goes on there. */
export async function keepPlaceAction(input: yup.InferType<typeof placeInput>) {
  return run(placeInput, input, (viewer, { code, student, filter }) =>
    keepPosition(viewer, code, { enrolmentId: student, filter }),
  );
}
