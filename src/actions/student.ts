'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { answerForm, type AnswerForm } from '@/core/forms/answer';
import { checkInForm, type CheckInForm } from '@/core/forms/checkIn';
import { checkIn, removeCheckIn } from '@/server/act/checkIn';
import { answerHelp, closeHelping } from '@/server/act/helpings';
import { answerMessage } from '@/server/act/conversation';
import { tickStep } from '@/server/act/plans';
import { acceptCourse } from '@/server/act/course/students';
import { setMailCopies } from '@/server/act/mailCopies';
import { askWhy } from '@/server/act/askWhy';
import { ownAnswers } from '@/server/look/ownLearning';
import { markRead } from '@/server/look/student';
import { idNumber } from '@/core/forms/rules';
import { studyTimesForm } from '@/core/forms/studyTimes';
import { newPlanFeed } from '@/server/act/planFeed';
import { notToday, saveStudyTimes } from '@/server/act/studyTimes';
import { courseCode, run } from './run';

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

export async function answerAction(input: AnswerForm) {
  return run(answerForm, input, async (viewer, form) => {
    await answerMessage(viewer, form);
    revalidatePath('/home');
  });
}

const acceptInput = yup.object({ course: courseCode });

/** Accepts a course that somebody put the viewer into. */
export async function acceptCourseAction(input: yup.InferType<typeof acceptInput>) {
  return run(acceptInput, input, async (viewer, { course }) => {
    await acceptCourse(viewer, course);
    revalidatePath('/home');
  });
}

const copiesInput = yup.object({ on: yup.boolean().required() });

/** Turns the e-mail copies of messages on or off. */
export async function mailCopiesAction(input: yup.InferType<typeof copiesInput>) {
  return run(copiesInput, input, async (viewer, { on }) => {
    await setMailCopies(viewer, on);
    revalidatePath('/home');
  });
}

/** Says how it goes, and what is in the way. */
export async function checkInAction(input: CheckInForm) {
  return run(checkInForm, input, async (viewer, form) => {
    const id = await checkIn(viewer, form);
    revalidatePath('/home');
    return id;
  });
}

const ofOne = yup.object({ id: idNumber });

/** Removes what one said of how it goes. */
export async function removeCheckInAction(input: yup.InferType<typeof ofOne>) {
  return run(ofOne, input, async (viewer, { id }) => {
    await removeCheckIn(viewer, id);
    revalidatePath('/home');
  });
}

const helpInput = yup.object({ id: idNumber, yes: yup.boolean().required() });

/** Agrees to help, or to be helped, or declines. */
export async function answerHelpAction(input: yup.InferType<typeof helpInput>) {
  return run(helpInput, input, async (viewer, { id, yes }) => {
    await answerHelp(viewer, id, yes);
    revalidatePath('/home');
  });
}

/** Ends helping, or being helped. */
export async function endHelpAction(input: yup.InferType<typeof ofOne>) {
  return run(ofOne, input, async (viewer, { id }) => {
    await closeHelping(viewer, id, null);
    revalidatePath('/home');
  });
}

const ofQuiz = yup.object({ activity: idNumber });

/** One's own answers to a quiz, with what is right and why. */
export async function ownAnswersAction(input: yup.InferType<typeof ofQuiz>) {
  return run(ofQuiz, input, (viewer, { activity }) => ownAnswers(viewer, activity));
}

const whyInput = yup.object({
  activity: idNumber,
  item: yup.string().max(200).required(),
  on: yup.boolean().required(),
});

/** Says that one does not see why an answer is right, or undoes that. */
export async function askWhyAction(input: yup.InferType<typeof whyInput>) {
  return run(whyInput, input, (viewer, { activity, item, on }) => askWhy(viewer, activity, item, on));
}

const ofCourse = yup.object({ course: courseCode });

/** Moves what is open in one's plans, since one cannot learn today. */
export async function notTodayAction(input: yup.InferType<typeof ofCourse>) {
  return run(ofCourse, input, async (viewer, { course }) => {
    const said = await notToday(viewer, course);
    revalidatePath('/home');
    return said;
  });
}

const timesInput = yup.object({ course: courseCode, form: studyTimesForm });

/** Keeps when one learns, and makes one's open plans fit it. */
export async function studyTimesAction(input: yup.InferType<typeof timesInput>) {
  return run(timesInput, input, async (viewer, { course, form }) => {
    await saveStudyTimes(viewer, course, form);
    revalidatePath('/home');
  });
}

const nothing = yup.object({});

/** Makes a new private address for one's plans as a calendar. */
export async function planFeedAction(input: yup.InferType<typeof nothing>) {
  return run(nothing, input, (viewer) => newPlanFeed(viewer));
}
