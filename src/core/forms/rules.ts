import * as yup from 'yup';
import { parseDate } from '../calendar/day';
import { PLAUSIBLE_YEARS } from '../calendar/instant';

/** A part of a form that has parts itself. It must be there: left out, it would pass as if its parts were. */
export const part = <S extends yup.ObjectShape>(shape: S) =>
  yup.object(shape).required('Something of it is missing.');

/** The largest number that an id, or any whole number that is stored, can be. */
const MOST = 2 ** 31 - 1;

export const idNumber = yup
  .number()
  .integer()
  .positive()
  .max(MOST, 'There is nothing of this number.')
  .required();
/** The id of what a form is about; none for something new. */
export const maybeId = idNumber.nullable();

/** Text that says something, and not too much. Blanks around it are taken off once it is stored. */
export const words = (empty: string, most: number, long: string) =>
  yup
    .string()
    .max(most, long)
    .required(empty)
    .test('blank', empty, (v) => v.trim() !== '');
/** A name or title. */
export const name = (what: string, most = 200) =>
  words(`${what} is empty.`, most, `${what} is longer than ${most.toLocaleString('en')} characters.`);

/** A number within bounds. `nullable` lets it be left out. */
export const number = (what: string, least: number, most: number) =>
  yup
    .number()
    .typeError(`${what}: write a number.`)
    .min(least, `${what}: at least ${least.toLocaleString('en')}.`)
    .max(most, `${what}: at most ${most.toLocaleString('en')}.`)
    .required(`${what}: write a number.`);
export const whole = (what: string, least: number, most: number) =>
  number(what, least, most).integer(`${what}: write a whole number.`);

/** A calendar day of a course; such as does not exist is refused in words. */
export const dayText = yup
  .string()
  .required('Choose a day.')
  .test(
    'day',
    ({ value }) => dayFault(value),
    (text) => parseDate(text).ok,
  );
/** The same, or none. */
export const maybeDay = yup
  .string()
  .nullable()
  .defined()
  .test(
    'day',
    ({ value }) => dayFault(value),
    (text) => text == null || parseDate(text).ok,
  );
/** An instant in which a course can be, or none. */
export const maybeInstant = yup
  .number()
  .integer()
  .min(Date.UTC(PLAUSIBLE_YEARS.least, 0), 'This lies too far back.')
  .max(Date.UTC(PLAUSIBLE_YEARS.most, 0), 'This lies too far ahead.')
  .nullable()
  .defined();

function dayFault(value: unknown): string {
  const read = typeof value === 'string' && value !== '' ? parseDate(value) : null;
  return read && !read.ok ? `${read.reason}.` : 'Choose a day.';
}

/** What is wrong with a form in the words of its schema, the first of it; undefined if nothing is. */
export function faultOf(schema: yup.Schema, value: unknown): string | undefined {
  try {
    schema.validateSync(value, { strict: true });
    return undefined;
  } catch (error) {
    if (error instanceof yup.ValidationError) return error.message;
    throw error;
  }
}
