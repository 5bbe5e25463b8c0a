import * as yup from 'yup';
import { REPEATS } from '../talks/times';
import { dayText, idNumber, maybeId, name, whole, words } from './rules';

/** Days between the first and the last on which times can come. */
const MOST_DAYS = 400;

/** Times at which an instructor can be seen. */
export const talkTimesForm = yup
  .object({
    id: maybeId.defined(),
    repeat: yup
      .string()
      .oneOf([...REPEATS])
      .required(),
    firstOn: dayText,
    lastOn: dayText,
    from: whole('The start', 0, 24 * 60 - 1),
    until: whole('The end', 1, 24 * 60),
    minutes: whole('Length of a talk', 5, 240),
    place: name('The place', 200),
    seats: whole('How many at once', 1, 30),
    open: yup.boolean().required(),
    except: yup.array(dayText).max(200, 'At most 200 exceptions.').required(),
  })
  .test(
    'order',
    'The end must come after the start.',
    ({ from, until }, context) =>
      until > from || context.createError({ path: 'until', message: 'The end must come after the start.' }),
  )
  .test(
    'fits',
    'Not even one talk fits between start and end.',
    ({ from, until, minutes }, context) =>
      until <= from ||
      from + minutes <= until ||
      context.createError({ path: 'minutes', message: 'Not even one talk fits between start and end.' }),
  )
  .test('days', 'The last day lies before the first.', ({ repeat, firstOn, lastOn }, context) => {
    if (repeat === 'once' || !firstOn || !lastOn) return true;
    if (lastOn < firstOn)
      return context.createError({ path: 'lastOn', message: 'The last day lies before the first.' });
    const days = (Date.parse(lastOn) - Date.parse(firstOn)) / 86_400_000;
    return (
      days <= MOST_DAYS ||
      context.createError({
        path: 'lastOn',
        message: 'Times can come for at most 400 days; choose an earlier day.',
      })
    );
  });
export type TalkTimesForm = yup.InferType<typeof talkTimesForm>;

/** Which times, and which of their slots, a student takes. */
export const takeTalkForm = yup.object({ times: idNumber, startsAt: yup.number().integer().required() });

/** Cancelling a talk, with a word why if one likes. */
export const cancelTalkForm = yup.object({
  talk: idNumber,
  why: yup.string().max(500, 'Keep it under 500 characters.').defined(),
});

/** What is kept of a talk: the instructor's note, and what both agreed on if they did. */
export const talkNoteForm = yup.object({
  on: dayText,
  text: yup.string().max(4000, 'Keep a note under 4,000 characters.').defined(),
  agreed: yup
    .object({
      goal: words('Say what you agreed on.', 300, 'Keep the goal under 300 characters.'),
      step: words('Say what comes first.', 300, 'Keep the step under 300 characters.'),
      on: dayText,
      /** In the student's own words. */
      said: yup.string().max(500, 'Keep their words under 500 characters.').defined(),
    })
    .nullable()
    .defined(),
});
export type TalkNoteForm = yup.InferType<typeof talkNoteForm>;

/** Who is asked to help whom, with what, until when. */
export const helpingForm = yup.object({
  helped: idNumber,
  helper: idNumber,
  topic: name('The topic', 120),
  until: dayText,
});
export type HelpingForm = yup.InferType<typeof helpingForm>;
