import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { alongForm, stepForm, textForm } from '@/core/forms/message';
import { sendMessages } from '@/server/act/compose';
import { idNumber, maybeInstant, part } from '@/core/forms/rules';
import { about, courseCode, run } from './run';

const text = textForm.shape({
  // A key a composition, and with several texts the number of each behind it.
  key: yup
    .string()
    .matches(/^[0-9a-f-]{36}(\.\d{1,2})?$/i)
    .required(),
  reason: yup.string().max(300).defined(),
  about,
  activityId: idNumber.nullable().defined(),
  item: yup.string().max(200).nullable().optional(),
  recipients: yup
    .array(
      part({
        enrolmentId: idNumber,
        plan: yup.array(stepForm).max(50).nullable().defined(),
        own: textForm.nullable().optional(),
      }),
    )
    .max(5000)
    .defined(),
});

const sendInput = yup.object({
  code: courseCode,
  messages: yup.array(text).min(1).max(50).required(),
  at: maybeInstant.optional(),
  along: alongForm.optional().default(undefined),
});

/**
 * Sends a message to many, each with their own plan. Behind a route and not an action: two thousand plans are more than an
 * action takes.
 */
export async function sendAction(input: unknown) {
  return run(sendInput, input, async (viewer, { code, messages, at, along }) => {
    const sent = await sendMessages(viewer, code, messages, at ?? null, along);
    revalidatePath(`/c/${code}`, 'layout');
    return sent;
  });
}
