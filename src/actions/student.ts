'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { tickStep } from '@/server/act/plans';
import { markRead } from '@/server/look/student';
import { idNumber, run } from './run';

const tickInput = yup.object({ step: idNumber, done: yup.boolean().required() });

export async function tickAction(input: yup.InferType<typeof tickInput>) {
  return run(tickInput, input, async (viewer, { step, done }) => {
    await tickStep(viewer, step, done);
    revalidatePath('/home');
  });
}

const readInput = yup.object({ recipient: idNumber });

export async function readAction(input: yup.InferType<typeof readInput>) {
  return run(readInput, input, async (viewer, { recipient }) => {
    await markRead(viewer, recipient);
    revalidatePath('/home');
  });
}
