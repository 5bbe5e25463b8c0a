import * as yup from 'yup';
import { ABOUTS } from '../acts/pick';
import { ACTIVITY_KINDS } from '../course/kinds';
import { testsIn } from '../rules/selection';
import { RULE_STARTERS } from '../unasked/starters';
import type { Fact } from '../unasked/lookAt';
import { isOfWork, type RuleParts, type When } from '../unasked/rule';
import { whereForm } from './audience';
import { textForm } from './message';
import { idNumber, maybeId, name, part, whole } from './rules';

const kind = yup
  .string()
  .oneOf([...ACTIVITY_KINDS])
  .required();
const WHICH = {
  kind: part({ kind }).noUnknown(),
  work: part({ work: idNumber }).noUnknown(),
  any: part({ any: yup.boolean().oneOf([true]).required() }).noUnknown(),
};
const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const which = yup.lazy((value: unknown) =>
  isObject(value) && 'work' in value
    ? WHICH.work
    : isObject(value) && 'kind' in value
      ? WHICH.kind
      : WHICH.any,
);
const on = <K extends When['on']>(word: K) => yup.string().oneOf([word]).required();
const WHEN = {
  graded: part({ on: on('graded'), which }).noUnknown(),
  due: part({ on: on('due'), which, hours: whole('Hours before it is due', 1, 24 * 30) }).noUnknown(),
  holds: part({ on: on('holds'), days: whole('Days that it has held', 0, 120) }).noUnknown(),
  'step overdue': part({ on: on('step overdue') }).noUnknown(),
  'plan finished': part({ on: on('plan finished') }).noUnknown(),
  weekly: part({
    on: on('weekly'),
    weekday: whole('The weekday', 1, 7),
    minute: whole('The time', 0, 24 * 60 - 1),
  }).noUnknown(),
};

/** When a rule looks. */
const when = yup.lazy((value: unknown) => {
  const word = isObject(value) && typeof value.on === 'string' ? value.on : '';
  const words = Object.keys(WHEN) as (keyof typeof WHEN)[];
  return WHEN[words.find((k) => k === word) ?? 'graded'];
});

/** What a rule does. */
export const thenForm = textForm.shape({
  do: yup.string().oneOf(['message', 'word']).required(),
  approve: yup.boolean().required(),
  withPlan: yup.boolean().required(),
  offersTalk: yup.boolean().required(),
});

const NOTHING_LEFT_OUT = 'This rule would write to every student. Add a row that says to whom.';

const partsForm = part({
  when,
  where: whereForm,
  then: thenForm,
  about: yup
    .string()
    .oneOf([...ABOUTS])
    .required(),
}).test('somebody', NOTHING_LEFT_OUT, (parts) => {
  const { when: occasion, where, then } = parts as unknown as RuleParts;
  // What is not whole says so itself.
  if (!isObject(occasion) || !whereForm.isValidSync(where, { strict: true })) return true;
  return isOfWork(occasion) || then?.do === 'word' || !needsRows(occasion) || testsIn(where).length > 0;
});

const needsRows = ({ on: word }: When): boolean => word === 'holds' || word === 'weekly';

/** Reads the parts of a rule as they are kept; what is wrong in them is an error of Yup. */
export const readParts = (value: unknown): RuleParts =>
  partsForm.validateSync(value, { strict: true }) as unknown as RuleParts;

/** Numbers of a starter by their keys. */
const numbers = yup
  .mixed<Record<string, number>>(
    (value): value is Record<string, number> =>
      isObject(value) && Object.values(value).every((n) => typeof n === 'number' && Number.isFinite(n)),
  )
  .required();

/** A rule as it is saved: of a starter with its numbers, or one of their own. */
export const ruleForm = part({
  id: maybeId.defined(),
  name: name('The name', 80),
  starter: yup
    .mixed<string>((v): v is string => typeof v === 'string' && Object.hasOwn(RULE_STARTERS, v))
    .nullable()
    .defined(),
  numbers,
  parts: partsForm,
}).test({
  name: 'numbers',
  test(form) {
    const starter = form.starter == null ? undefined : RULE_STARTERS[form.starter];
    const wrong = starter?.numbers.find((n) => {
      const value = form.numbers?.[n.key];
      return value == null || value < n.least || value > n.most;
    });
    return wrong
      ? this.createError({ message: `${wrong.label}: a number from ${wrong.least} to ${wrong.most}.` })
      : true;
  },
});
export interface RuleForm {
  readonly id: number | null;
  readonly name: string;
  readonly starter: string | null;
  readonly numbers: Readonly<Record<string, number>>;
  readonly parts: RuleParts;
}

/** What keeps the rules of a course from writing too often, and at night. */
export const guardsForm = part({
  coolDownDays: whole('Days between messages about the same', 1, 90),
  mostAWeek: whole('Messages by rules a week', 1, 14),
  quietFrom: whole('Quiet from', 0, 24 * 60 - 1),
  quietTo: whole('Quiet until', 0, 24 * 60 - 1),
});

const facts = yup
  .array(
    part({
      key: yup.string().required(),
      value: yup
        .mixed<string | number>((v): v is string | number => typeof v === 'string' || typeof v === 'number')
        .nullable()
        .defined(),
    }),
  )
  .required();
/** Reads the numbers that an occasion rested on, as they are kept. */
export const readFacts = (value: unknown): readonly Fact[] => facts.validateSync(value, { strict: true });
