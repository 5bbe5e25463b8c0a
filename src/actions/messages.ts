'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { callBack } from '@/server/act/compose';
import { readConversation } from '@/server/act/conversation';
import { removeTemplate, saveTemplate } from '@/server/act/templates';
import { templateForm } from '@/core/forms/message';
import { retryMail } from '@/server/act/messages';
import { idNumber } from '@/core/forms/rules';
import { changes, courseCode, run, was } from './run';

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

const ofMessage = yup.object({ code: courseCode, message: idNumber });
/** Calls a message back that has not gone yet, with all that was composed with it. */
export const callBackAction = changes(ofMessage, (viewer, { code, message }) =>
  callBack(viewer, code, message),
);

const saveInput = templateForm.shape({ code: courseCode, was });
export const saveTemplateAction = changes(saveInput, (viewer, { code, was: opened, ...form }) =>
  saveTemplate(viewer, code, form, opened),
);

const removeInput = yup.object({ code: courseCode, id: idNumber });
export const removeTemplateAction = changes(removeInput, (viewer, { code, id }) =>
  removeTemplate(viewer, code, id),
);

const ofStudent = yup.object({ code: courseCode, student: idNumber });
/** What a student answered has been opened. */
export const readConversationAction = changes(ofStudent, (viewer, { code, student }) =>
  readConversation(viewer, code, student),
);
