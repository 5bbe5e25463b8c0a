import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import * as yup from 'yup';
import { ABOUTS } from '@/core/acts/pick';
import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { UseCaseError } from '@/server/base/errors';
import { reportFailure } from '@/server/base/failure';
import { Conflict } from '@/server/base/version';
import { requireViewer, type Viewer } from '@/server/access/viewer';

/**
 * What a server action answers: done, or why not in words for the person; with what is stored now, where others changed it
 * while a form was open.
 */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly message: string; readonly theirs?: object };

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
    return { ok: true, value: await task(viewer, await named(schema, input)) };
  } catch (error) {
    if (error instanceof Conflict) return { ok: false, message: error.message, theirs: error.theirs };
    if (error instanceof UseCaseError || error instanceof yup.ValidationError) {
      return { ok: false, message: error.message };
    }
    const said = reportFailure('action', error);
    return { ok: false, message: said ?? 'Something went wrong here. Nothing was changed; try again.' };
  }
}

/** Checks a form as it is, and leaves out what its schema does not name: nothing else of it goes any further. */
export async function named<S>(schema: yup.Schema<S>, value: unknown): Promise<S> {
  const checked = await schema.validate(value, { strict: true, abortEarly: true });
  return onlyNamed(schema, checked) as S;
}

/** A checked value without what its schema does not name, at any depth. What a schema takes as it is stays whole. */
function onlyNamed(schema: yup.ISchema<unknown>, value: unknown): unknown {
  const { type, fields, innerType } = schema.resolve({ value }) as Partial<
    Pick<yup.ObjectSchema<yup.AnyObject>, 'type' | 'fields'> &
      Pick<yup.ArraySchema<unknown[], unknown>, 'innerType'>
  >;
  if (Array.isArray(value))
    return innerType ? value.map((item: unknown) => onlyNamed(innerType, item)) : value;
  if (type !== 'object' || !fields || typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, own]: [string, unknown]) => {
      const field = Object.hasOwn(fields, key) ? fields[key] : undefined;
      return yup.isSchema(field) ? [[key, onlyNamed(field, own)]] : [];
    }),
  );
}

/** An action: its input is checked, and whoever is signed in asks. */
export const asks =
  <S, T>(schema: yup.Schema<S>, task: (viewer: Viewer, input: S) => Promise<T>) =>
  (input: S): Promise<Outcome<T>> =>
    run(schema, input, task);

/**
 * What a form held when it was opened, which is its version: nothing that others saved meanwhile is overwritten. Null for
 * something new.
 */
export const was = yup
  .mixed<object>((value): value is object => typeof value === 'object' && !Array.isArray(value))
  .nullable()
  .defined();

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

/** What a selection or a text is about. */
export const about = yup
  .string()
  .oneOf([...ABOUTS])
  .required();

export const courseCode = yup.string().max(40).required();

/** Text without blanks around it, wherever it stands in a checked form. */
export function trimmed<T>(value: T): T {
  const mend = (v: unknown): unknown => {
    if (typeof v === 'string') return v.trim();
    if (Array.isArray(v)) return v.map(mend);
    if (typeof v !== 'object' || v === null) return v;
    return Object.fromEntries(Object.entries(v).map(([k, inner]: [string, unknown]) => [k, mend(inner)]));
  };
  return mend(value) as T;
}
