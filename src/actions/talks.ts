'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { cancelTalkForm, takeTalkForm, talkNoteForm, talkTimesForm } from '@/core/forms/talk';
import { idNumber } from '@/core/forms/rules';
import { addTalkNote } from '@/server/act/notes';
import { cancelTalk, takeTalk } from '@/server/act/talks';
import { removeTalkTimes, saveTalkTimes } from '@/server/act/talkTimes';
import { changes, courseCode, run, was } from './run';

const MISSING = 'Something of it is missing.';

const timesInput = yup.object({ code: courseCode, times: talkTimesForm.required(MISSING), was });
/** Keeps times at which somebody can be seen. */
export const saveTimesAction = changes(timesInput, (viewer, { code, times, was: opened }) =>
  saveTalkTimes(viewer, code, times, opened),
);

const removeInput = yup.object({ code: courseCode, id: idNumber });
export const removeTimesAction = changes(removeInput, (viewer, { code, id }) =>
  removeTalkTimes(viewer, code, id),
);

const noteInput = yup.object({
  code: courseCode,
  student: idNumber,
  talk: idNumber.nullable().defined(),
  note: talkNoteForm.required(MISSING),
});
/** Keeps what was said in a talk, and what both agreed on. */
export const talkNoteAction = changes(noteInput, (viewer, { code, student, talk, note }) =>
  addTalkNote(viewer, code, student, note, talk),
);

/** Takes a time for a talk, or moves the talk there. */
export async function takeTalkAction(input: yup.InferType<typeof takeTalkForm>) {
  return run(takeTalkForm, input, async (viewer, form) => {
    const id = await takeTalk(viewer, form);
    revalidatePath('/home');
    return id;
  });
}

/** Cancels a talk: the student theirs, an instructor their own. */
export async function cancelTalkAction(input: yup.InferType<typeof cancelTalkForm>) {
  return run(cancelTalkForm, input, async (viewer, form) => {
    await cancelTalk(viewer, form);
    revalidatePath('/home');
    revalidatePath('/c/[code]', 'layout');
  });
}
