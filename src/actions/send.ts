import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { sendMessage } from '@/server/act/compose';
import { courseCode, dayText, idNumber, part, run } from './run';

const step = part({
  activityId: idNumber.nullable().defined(),
  title: yup
    .string()
    .trim()
    .max(200, 'A step’s title is over 200 characters.')
    .required('A step has no title.'),
  minutes: yup
    .number()
    .typeError('A step’s minutes are not a number.')
    .integer('A step’s minutes must be whole.')
    .min(1, 'A step takes at least a minute.')
    .max(1000, 'A step takes at most 1,000 minutes.')
    .required('A step has no minutes.'),
  on: dayText,
  why: yup.string().max(300).defined(),
});

const sendInput = yup.object({
  code: courseCode,
  key: yup.string().uuid().required(),
  // Lengths and merge fields are rules of the use case, which names what is wrong; this only bounds the work.
  subject: yup.string().max(2000, 'The subject is longer than 200 characters.').defined(),
  body: yup.string().max(3_000_000, 'The message is longer than 20,000 characters.').defined(),
  reason: yup.string().max(300).defined(),
  recipients: yup
    .array(part({ enrolmentId: idNumber, plan: yup.array(step).max(50).nullable().defined() }))
    .max(5000)
    .defined(),
});

/**
 * Sends a message to many, each with their own plan. Behind a route and not an action: two thousand plans are more than an
 * action takes.
 */
export async function sendAction(input: unknown) {
  return run(sendInput, input, async (viewer, { code, ...message }) => {
    const sent = await sendMessage(viewer, code, message);
    revalidatePath(`/c/${code}`, 'layout');
    return sent;
  });
}
