'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { retryMail } from '@/server/act/messages';
import { courseCode, idNumber, run } from './run';

const retryInput = yup.object({
  code: courseCode,
  recipient: idNumber,
  email: yup.string().max(300).defined(),
});

export async function retryAction(input: yup.InferType<typeof retryInput>) {
  return run(retryInput, input, async (viewer, { code, recipient, email }) => {
    const proposed = await retryMail(viewer, code, recipient, email);
    revalidatePath(`/c/${code}/messages`, 'layout');
    return { proposed };
  });
}
