'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { NOTE_KINDS } from '@/core/acts/act';
import { addNote, removeNote } from '@/server/act/notes';
import { courseCode, dayText, idNumber, run } from './run';

const noteInput = yup.object({
  code: courseCode,
  student: idNumber,
  kind: yup
    .string()
    .oneOf([...NOTE_KINDS])
    .required(),
  on: dayText,
  text: yup.string().trim().max(4000, 'Keep a note under 4,000 characters.').required('Write a word or two.'),
});

export async function addNoteAction(input: yup.InferType<typeof noteInput>) {
  return run(noteInput, input, async (viewer, { code, student, ...note }) => {
    const id = await addNote(viewer, code, student, note);
    revalidatePath(`/c/${code}/students/${student}`);
    return id;
  });
}

const removeInput = yup.object({ code: courseCode, student: idNumber, note: idNumber });

export async function removeNoteAction(input: yup.InferType<typeof removeInput>) {
  return run(removeInput, input, async (viewer, { code, student, note }) => {
    await removeNote(viewer, code, note);
    revalidatePath(`/c/${code}/students/${student}`);
  });
}
