'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { ACTIVITY_COLUMNS } from '@/core/views/activity';
import { saveActivityColumns } from '@/server/watch/activity';
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
