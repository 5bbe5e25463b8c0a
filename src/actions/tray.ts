'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { addToTray, clearTray } from '@/server/act/tray';
import { courseCode, idNumber, run } from './run';

const pickInput = yup.object({
  code: courseCode,
  students: yup.array(idNumber).max(5000).required(),
  reason: yup.string().max(300).required(),
});

export async function pickAction(input: yup.InferType<typeof pickInput>) {
  return run(pickInput, input, async (viewer, { code, students, reason }) => {
    await addToTray(viewer, code, students, reason);
    revalidatePath(`/c/${code}`, 'layout');
  });
}

const dropInput = yup.object({
  code: courseCode,
  students: yup.array(idNumber).max(5000).nullable().defined(),
});

/** Takes students out of the tray; null empties it. */
export async function dropAction(input: yup.InferType<typeof dropInput>) {
  return run(dropInput, input, async (viewer, { code, students }) => {
    await clearTray(viewer, code, students);
    revalidatePath(`/c/${code}`, 'layout');
  });
}
