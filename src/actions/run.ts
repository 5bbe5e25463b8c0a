import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import * as yup from 'yup';
import { parseDate } from '@/core/formats/day';
import { PLAUSIBLE_YEARS } from '@/core/formats/instant';
import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { UseCaseError } from '@/server/base/errors';
import { reportFailure } from '@/server/base/failure';
import { requireViewer, type Viewer } from '@/server/access/viewer';

/** What a server action answers: done, or why not in words for the person. */
export type Outcome<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly message: string };

/**
 * Runs a use case for whoever is signed in and turns a refusal into words. Input is checked by `schema` first; what
 * is not foreseen is logged without any of its data.
 */
export async function run<S, T>(
  schema: yup.Schema<S>,
  input: unknown,
  task: (viewer: Viewer, input: S) => Promise<T>,
): Promise<Outcome<T>> {
  try {
    const viewer = await requireViewer(await headers());
    if (typeof input !== 'object' || input === null)
      throw new UseCaseError('invalid', 'There is nothing in it.');
    if (holdsBroken(input))
      throw new UseCaseError('invalid', `Something in it is no text: it ${BROKEN_TEXT}.`);
    const checked = await schema.validate(input, { strict: true, abortEarly: true });
    return { ok: true, value: await task(viewer, checked) };
  } catch (error) {
    if (error instanceof UseCaseError || error instanceof yup.ValidationError) {
      return { ok: false, message: error.message };
    }
    const said = reportFailure('action', error);
    return { ok: false, message: said ?? 'Something went wrong here. Nothing was changed; try again.' };
  }
}

/** An action that only asks: its input is checked, and whoever is signed in asks. */
export const asks =
  <S, T>(schema: yup.Schema<S>, task: (viewer: Viewer, input: S) => Promise<T>) =>
  (input: S): Promise<Outcome<T>> =>
    run(schema, input, task);

/** An action that changes something in a course: the same, and every view of the course is drawn anew. */
export const changes = <S extends { readonly code: string }, T>(
  schema: yup.Schema<S>,
  task: (viewer: Viewer, input: S) => Promise<T>,
) =>
  asks(schema, async (viewer, input) => {
    const done = await task(viewer, input);
    refresh(input.code);
    return done;
  });

export const refresh = (code: string) => revalidatePath(`/c/${code}`, 'layout');

/** A part of an input that has parts itself. It must be there: left out, it would pass as if its parts were. */
export const part = <S extends yup.ObjectShape>(shape: S) =>
  yup.object(shape).required('Something of it is missing.');

/** The largest number that an id, or any whole number that is stored, can be. */
const MOST = 2 ** 31 - 1;

export const courseCode = yup.string().max(40).required();
export const idNumber = yup
  .number()
  .integer()
  .positive()
  .max(MOST, 'There is nothing of this number.')
  .required();
/** A calendar day of a course; such as does not exist is refused in words. */
export const dayText = yup
  .string()
  .required('Choose a day.')
  .test(
    'day',
    ({ value }) => dayFault(value),
    (text) => parseDate(text).ok,
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
