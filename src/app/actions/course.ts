'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { commitImport } from '@/server/intake/intake';
import { saveSettings, settingsSchema } from '@/server/settings';
import { courseCode, run } from './run';

const importInput = yup.object({ code: courseCode, id: yup.string().uuid().required() });

export async function importAction(input: yup.InferType<typeof importInput>) {
  return run(importInput, input, async (viewer, { code, id }) => {
    const counts = await commitImport(viewer, code, id);
    revalidatePath(`/c/${code}`, 'layout');
    return counts;
  });
}

const saveInput = yup.object({ code: courseCode, settings: settingsSchema });

export async function saveSettingsAction(input: yup.InferType<typeof saveInput>) {
  return run(saveInput, input, async (viewer, { code, settings }) => {
    await saveSettings(viewer, code, settings);
    revalidatePath(`/c/${code}`, 'layout');
  });
}
