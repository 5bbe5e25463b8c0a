'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { noteForm } from '@/core/forms/note';
import { addNote, removeNote } from '@/server/act/notes';
import { idNumber } from '@/core/forms/rules';
import { courseCode, run, trimmed } from './run';

const noteInput = noteForm.shape({ code: courseCode, student: idNumber });

export async function addNoteAction(input: yup.InferType<typeof noteInput>) {
  return run(noteInput, input, async (viewer, { code, student, ...note }) => {
    const id = await addNote(viewer, code, student, trimmed(note));
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
