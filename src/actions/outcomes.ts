'use server';
import * as yup from 'yup';
import { goalForm } from '@/core/forms/goal';
import { idNumber } from '@/core/forms/rules';
import { addGoal, removeGoal } from '@/server/act/goals';
import { outcomeChanges } from '@/server/look/outcomeChanges';
import { outcomeItems } from '@/server/look/outcomeItems';
import { asks, changes, courseCode } from './run';

const ofOutcome = yup.object({ code: courseCode, outcome: idNumber });

export const outcomeItemsAction = asks(ofOutcome, (viewer, { code, outcome }) =>
  outcomeItems(viewer, code, outcome),
);

const scopeText = yup.string().max(200).nullable().defined();
const ofWindow = yup.object({ code: courseCode, w: scopeText, g: scopeText });

export const outcomeChangesAction = asks(ofWindow, (viewer, { code, w, g }) =>
  outcomeChanges(viewer, code, { w: w ?? undefined, g: g ?? undefined }),
);

const goalInput = yup.object({ code: courseCode, form: goalForm });

export const addGoalAction = changes(goalInput, (viewer, { code, form }) => addGoal(viewer, code, form));

const goalId = yup.object({ code: courseCode, id: idNumber });

export const removeGoalAction = changes(goalId, (viewer, { code, id }) => removeGoal(viewer, code, id));
