'use server';
import * as yup from 'yup';
import { itemChangeForm } from '@/core/forms/item';
import { KEY_SHOWN } from '@/core/items/disclosure';
import { idNumber } from '@/core/forms/rules';
import {
  changeItem,
  handleQuestions,
  previewItemChange,
  setKeyShown,
  undoItemChange,
} from '@/server/act/items';
import { leansIn } from '@/server/look/items';
import { trailOf } from '@/server/look/trail';
import { asks, changes, courseCode } from './run';

const changeInput = yup.object({ code: courseCode, change: itemChangeForm });

export const previewItemAction = asks(changeInput, (viewer, { code, change }) =>
  previewItemChange(viewer, code, change),
);

export const changeItemAction = changes(changeInput, (viewer, { code, change }) =>
  changeItem(viewer, code, change),
);

const undoInput = yup.object({ code: courseCode, id: idNumber });

export const undoItemAction = changes(undoInput, (viewer, { code, id }) => undoItemChange(viewer, code, id));

const trailInput = yup.object({
  code: courseCode,
  activityId: idNumber,
  item: yup.string().max(200).required(),
  enrolmentId: idNumber,
});

export const trailAction = asks(trailInput, (viewer, { code, activityId, item, enrolmentId }) =>
  trailOf(viewer, code, activityId, item, enrolmentId),
);

const questionInput = yup.object({
  code: courseCode,
  activityId: idNumber,
  item: yup.string().max(200).required(),
});

export const handleQuestionsAction = changes(questionInput, (viewer, { code, activityId, item }) =>
  handleQuestions(viewer, code, activityId, item),
);

const shownInput = yup.object({
  code: courseCode,
  activityId: idNumber,
  shown: yup
    .string()
    .oneOf([...KEY_SHOWN])
    .required(),
});

/** Says when students see the answers of a quiz. */
export const keyShownAction = changes(shownInput, (viewer, { code, activityId, shown }) =>
  setKeyShown(viewer, code, { activityId, shown }),
);

const leansInput = yup.object({ code: courseCode, g: yup.string().max(200).nullable().defined() });

export const leansAction = asks(leansInput, (viewer, { code, g }) =>
  leansIn(viewer, code, { g: g ?? undefined }),
);
