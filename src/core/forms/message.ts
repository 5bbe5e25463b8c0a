import * as yup from 'yup';
import type { MessageDoc } from '../messages/doc';
import { docFault, readDoc } from '../messages/docSchema';
import { docText } from '../messages/docText';
import { ABOUTS } from '../acts/pick';
import { LIMITS } from '../messages/limits';
import { MOST_STEPS } from '../plans/plan';
import { parseTemplate } from '../messages/template';
import { dayText, idNumber, maybeDay, maybeId, name, part, words } from './rules';

/** A text whose braces hold merge fields; what is wrong in it is said with its line. */
const template = (what: string, most: number) =>
  name(what, most).test(
    'template',
    ({ value }) => {
      const [first] = parseTemplate(String(value)).errors;
      return first ? `${what}, line ${first.line}: ${first.reason}` : '';
    },
    (text) => parseTemplate(text).errors.length === 0,
  );

const subject = template('The subject', LIMITS.subject).test(
  'line',
  'The subject must be one line.',
  (text) => !/[\r\n]/.test(text),
);

/** A document as the editor holds it. */
const doc = yup
  .mixed<MessageDoc>((value): value is MessageDoc => typeof value === 'object' && value !== null)
  .required('The message is empty.')
  .test(
    'doc',
    ({ value }) => docFault(value) ?? '',
    (value) => docFault(value) == null,
  )
  .test(
    'empty',
    'The message is empty.',
    (value) => docFault(value) != null || docText(readDoc(value)).trim() !== '',
  );

/** Subject, with merge fields in braces, and message. */
export const textForm = part({ subject, doc });
export type TextForm = yup.InferType<typeof textForm>;

/** A step of a study plan as it is written. */
export const stepForm = part({
  activityId: maybeId,
  title: words('A step has no title.', 200, 'A step’s title is over 200 characters.'),
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
export type StepForm = yup.InferType<typeof stepForm>;

/** Steps while they are edited; `key` tells them apart. */
const editedSteps = yup
  .array(stepForm.shape({ key: yup.string().required() }))
  .max(MOST_STEPS, `A plan has at most ${MOST_STEPS} steps.`)
  .required();

/** The steps of one plan. */
export const stepsForm = yup.object({ steps: editedSteps });
export type StepsForm = yup.InferType<typeof stepsForm>;

/** A template under its name: for whoever wrote it, or for all who teach the course. */
export const templateForm = textForm.shape({
  id: maybeId.defined(),
  name: name('The name', 80),
  about: yup
    .string()
    .oneOf([...ABOUTS])
    .required(),
  shared: yup.boolean().required(),
});
export type TemplateForm = yup.InferType<typeof templateForm>;

/** What goes along with the texts of one sending. */
export const alongForm = part({
  /** Offers the times at which the writer can be seen. */
  offersTalk: yup.boolean().required(),
  /** Lets the recipients read why they got it. */
  saysWhy: yup.boolean().required(),
  /** The day on which the writer looks again; none if they do not. */
  lookAgainOn: maybeDay,
});
export type AlongForm = yup.InferType<typeof alongForm>;

/** A text while it is written: it may lack something still. */
const draftText = part({
  subject: yup.string().max(LIMITS.subject).defined(),
  doc: yup.mixed<MessageDoc>((value): value is MessageDoc => docFault(value) == null).required(),
});

/** What was written, as a tab of the browser keeps it for what is called back. */
export const draftForm = yup.object({
  texts: yup.array(part({ key: yup.string().required(), text: draftText })).required(),
  own: yup.array(part({ id: idNumber, text: draftText })).required(),
  steps: yup.array(part({ id: idNumber, steps: editedSteps })).required(),
  asOne: yup.boolean().required(),
  plans: yup.boolean().required(),
  gone: yup.array(idNumber).required(),
  allTheSame: yup.boolean().required(),
  along: alongForm,
});
export type DraftForm = yup.InferType<typeof draftForm>;
