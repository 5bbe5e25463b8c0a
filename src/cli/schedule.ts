import * as yup from 'yup';
import { parseDate } from '@/core/calendar/day';
import { parseJson } from '@/core/formats/json';
import { schedule } from '@/core/plans/schedule';
import { csvOf } from './csv';
import { InputError, readText } from './input';

const day = yup.string().test('day', (text, context) => {
  if (text == null) return true;
  const read = parseDate(text);
  return read.ok || context.createError({ message: `${context.path}: ${read.reason}` });
});

const planFile = yup
  .object({
    from: day.required(),
    minutes_per_day: yup
      .number()
      .positive()
      .max(24 * 60)
      .required(),
    days_off: yup.array(day.required()).required(),
    steps: yup
      .array(
        yup
          .object({
            id: yup.string().required(),
            minutes: yup.number().min(0).required(),
            after: yup.array(yup.string().required()).required(),
            pinned: day.nullable().defined(),
            due: day.nullable().defined(),
            priority: yup.number().required(),
          })
          .required(),
      )
      .required(),
  })
  .required();

function planOf(file: string) {
  const json = parseJson(readText(file));
  if (!json.ok) throw new InputError([`${file}: ${json.reason}`]);
  try {
    return planFile.validateSync(json.value, { strict: true, abortEarly: false });
  } catch (error) {
    if (error instanceof yup.ValidationError) throw new InputError(error.errors.map((e) => `${file}: ${e}`));
    throw error;
  }
}

/** `schedule`: a day for each step of a plan, as CSV in the order in which they are to be done. */
export function scheduleCommand(file: string): string {
  const plan = planOf(file);
  const done = schedule({
    from: plan.from,
    minutesPerDay: plan.minutes_per_day,
    daysOff: plan.days_off,
    steps: plan.steps,
  });
  if (!done.ok) throw new InputError([`${file}: ${done.reason}`]);
  return csvOf(
    ['id', 'on', 'late'],
    done.value.map((s) => [s.id, s.on, String(s.late)]),
  );
}
