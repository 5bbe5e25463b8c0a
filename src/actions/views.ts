'use server';
import * as yup from 'yup';
import { ACTIVITY_COLUMNS } from '@/core/views/activity';
import { keepScope } from '@/server/look/scope';
import { saveActivityColumns } from '@/server/look/activity';
import { asks, changes, courseCode } from './run';

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

export const saveActivityColumnsAction = changes(columnsInput, (viewer, { code, columns }) =>
  saveActivityColumns(viewer, code, columns),
);

const part = yup.string().max(40).required();
const scopeInput = yup.object({ code: courseCode, w: part, g: part, k: part });

/** Keeps what somebody looks at, so that the next view begins with it. */
export const keepScopeAction = asks(scopeInput, (viewer, { code, ...scope }) =>
  keepScope(viewer, code, scope),
);
