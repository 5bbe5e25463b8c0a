import { headers } from 'next/headers';
import * as yup from 'yup';
import { holdsZero } from '@/core/formats/zero';
import { UseCaseError } from '@/server/errors';
import { reportFailure } from '@/server/failure';
import { requireViewer, type Viewer } from '@/server/viewer';
import type { Outcome } from '@/ui/parts/useAct';

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
    if (holdsZero(input))
      throw new UseCaseError('invalid', 'Something in it is no text: it holds a zero character.');
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

export const courseCode = yup.string().max(40).required();
export const idNumber = yup.number().integer().positive().required();
export const dayText = yup
  .string()
  .matches(/^\d{4}-\d\d-\d\d$/, 'Choose a day.')
  .required('Choose a day.');
