'use server';
import * as yup from 'yup';
import { finderView } from '@/server/look/finder';
import { foldRibbon, keepScope } from '@/server/look/scope';
import { activityColumns, saveActivityColumns } from '@/server/look/activity';
import { saveSignMinutes, signMinutes } from '@/server/look/session';
import { asks, changes, courseCode } from './run';

const columnsInput = yup.object({ code: courseCode, columns: activityColumns });

export const saveActivityColumnsAction = changes(columnsInput, (viewer, { code, columns }) =>
  saveActivityColumns(viewer, code, columns),
);

const signInput = yup.object({ code: courseCode, minutes: signMinutes });

export const saveSignMinutesAction = changes(signInput, (viewer, { code, minutes }) =>
  saveSignMinutes(viewer, code, minutes),
);

/** What can be found in a course by its name; asked for when somebody begins to look. */
export const finderAction = asks(yup.object({ code: courseCode }), (viewer, { code }) =>
  finderView(viewer, code),
);

const foldInput = yup.object({ code: courseCode, folded: yup.boolean().required() });

export const foldRibbonAction = changes(foldInput, (viewer, { code, folded }) =>
  foldRibbon(viewer, code, folded),
);

const part = yup.string().max(40).required();
const scopeInput = yup.object({ code: courseCode, w: part, g: part, k: part });

/** Keeps what somebody looks at, so that the next view begins with it. */
export const keepScopeAction = asks(scopeInput, (viewer, { code, ...scope }) =>
  keepScope(viewer, code, scope),
);
