'use server';
import * as yup from 'yup';
import { keepScope } from '@/server/look/scope';
import { activityColumns, saveActivityColumns } from '@/server/look/activity';
import { asks, changes, courseCode } from './run';

const columnsInput = yup.object({ code: courseCode, columns: activityColumns });

export const saveActivityColumnsAction = changes(columnsInput, (viewer, { code, columns }) =>
  saveActivityColumns(viewer, code, columns),
);

const part = yup.string().max(40).required();
const scopeInput = yup.object({ code: courseCode, w: part, g: part, k: part });

/** Keeps what somebody looks at, so that the next view begins with it. */
export const keepScopeAction = asks(scopeInput, (viewer, { code, ...scope }) =>
  keepScope(viewer, code, scope),
);
