'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { ACTIVITY_COLUMNS } from '@/core/views/activity';
import { keepScope } from '@/server/look/scope';
import { saveActivityColumns } from '@/server/look/activity';
import { courseCode, run } from './run';

const columnsInput = yup.object({
  code: courseCode,
  columns: yup
    .array(
      yup
        .string()
        .oneOf([...ACTIVITY_COLUMNS])
        .required(),
    )
    .min(1, 'Keep at least one column.')
    .max(ACTIVITY_COLUMNS.length)
    .required(),
});

export async function saveActivityColumnsAction(input: yup.InferType<typeof columnsInput>) {
  return run(columnsInput, input, async (viewer, { code, columns }) => {
    await saveActivityColumns(viewer, code, columns);
    revalidatePath(`/c/${code}/activity`);
  });
}

const part = yup.string().max(40).required();
const scopeInput = yup.object({ code: courseCode, w: part, g: part, k: part });

/** Keeps what somebody looks at, so that the next view begins with it. */
export async function keepScopeAction(input: yup.InferType<typeof scopeInput>) {
  return run(scopeInput, input, (viewer, { code, ...scope }) => keepScope(viewer, code, scope));
}
